import { nameShown } from "@/shared/records/labels";
import { Term } from "@/shared/terms/Term";
import type { Answer } from "./naming";
import { percent } from "./percent";

/** The lowest name the observations support, at its honest rank. */
export function SupportedName({ answer }: { answer: Answer }) {
  const s = answer.supported;
  return (
    <div>
      <p className="text-sm">
        <Term id="honest_rank">Name supported now</Term>
      </p>
      {s ? (
        <>
          <p className="latin text-3xl leading-tight">{nameShown(s.name, s.rank)}</p>
          <p>
            {s.rank}, {percent(s.probability)}
            {s.organs.length > 0 &&
              ` · ${s.one_organ ? `${s.organs[0]} only` : `${s.organs.join(", ")} agree`}`}
          </p>
        </>
      ) : (
        <p className="text-xl">None yet.</p>
      )}
      {s?.stop_at && <p className="mt-1 text-sm">Named no further: {s.stop_at}</p>}
      {answer.either && (
        <p className="mt-1">
          Either <span className="latin">{answer.either.taxa[0]?.name}</span> or{" "}
          <span className="latin">{answer.either.taxa[1]?.name}</span>, {percent(answer.either.probability)}{" "}
          together: {answer.either.why}.
        </p>
      )}
    </div>
  );
}
