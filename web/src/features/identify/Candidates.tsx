import type { Seen } from "@/shared/records/draft";
import type { Answer } from "./naming";
import { percent } from "./percent";

interface Props {
  answer: Answer;
  looks: Seen[];
  label: (character: string) => string;
  other: string | null;
  onOther: (taxon: string | null) => void;
}

/** The candidates, best first, and the genera that one observation ruled out. */
export function Candidates({ answer, looks, label, other, onOther }: Props) {
  const observation = (id: string | number) => looks.find((l) => l.id === id);
  return (
    <>
      <ol className="border-t-2 border-ink pt-2">
        {answer.candidates.slice(0, 5).map((c) => (
          <li key={c.taxon} className="py-1">
            <button
              type="button"
              className="w-full min-h-[53px] text-left"
              aria-pressed={other === c.taxon}
              onClick={() => onOther(other === c.taxon ? null : c.taxon)}
              disabled={c.rank === "unlisted"}
            >
              <span className="flex items-baseline justify-between gap-2">
                <span className="latin text-lg leading-tight">{c.name}</span>
                <span className="font-bold">{percent(c.probability)}</span>
              </span>
              <span className="text-sm text-soft">{c.common}</span>
              <svg
                className="mt-1 block h-2 w-full"
                viewBox="0 0 100 2"
                preserveAspectRatio="none"
                aria-hidden="true"
              >
                <rect width="100" height="2" fill="var(--color-rule)" />
                <rect width={100 * c.probability} height="2" fill="var(--color-moss)" />
              </svg>
            </button>
          </li>
        ))}
      </ol>
      {answer.ruled_out.length > 0 && (
        <details>
          <summary className="min-h-[53px] cursor-pointer text-sm text-soft">
            Ruled out: {answer.ruled_out.length} genera by a single observation
          </summary>
          <ul className="text-sm">
            {answer.ruled_out.map((r) => (
              <li key={r.taxon}>
                <span className="latin">{r.name}</span> by{" "}
                {label(observation(r.observation)?.character ?? "").toLowerCase()}
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}
