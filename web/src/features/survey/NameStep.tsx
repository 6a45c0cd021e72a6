import { useNavigate } from "react-router";
import { NotSeparatedFrom } from "@/features/identify";
import { NameSearch } from "@/shared/names/NameSearch";
import { caseOf, withOne } from "@/shared/records/draft";
import { entriesOf, entryOf } from "@/shared/records/entries";
import { useVocabulary } from "@/shared/records/reads";
import { Button } from "@/shared/ui";
import { lastAnswers } from "./lastAnswers";
import type { StepProps } from "./stepProps";

/** The name: by observations in Identify, or straight in when it is known. */
export function NameStep({ draft, row, change, next, site }: StepProps) {
  const navigate = useNavigate();
  const last = lastAnswers();
  const vocabulary = useVocabulary();
  const name = entryOf(draft, "determination")?.body;
  const seen = entriesOf(draft, "observation").length;
  const take = async (entered: string, taxon?: string) => {
    await change((now) =>
      withOne(now, "determination", {
        entered,
        ...(taxon ? { taxon } : {}),
        reason: "known to the observer",
      }),
    );
    next();
  };
  const sameAsLast = () => take(last?.name?.entered ?? "", last?.name?.taxon);
  return (
    <div className="grid gap-5">
      {name ? (
        <p>
          Name on this visit: <strong className="latin text-xl">{name.entered}</strong>
          {name.probability ? `, ${Math.round(name.probability * 100)} %` : ""}{" "}
          <button
            type="button"
            className="target text-rust underline"
            onClick={() => void change((now) => withOne(now, "determination", null))}
          >
            remove
          </button>
        </p>
      ) : (
        <p className="text-soft">
          {row?.name ? `Recorded so far as ${row.name}. Go on to leave it so.` : "Not named yet."}
        </p>
      )}
      <Button weight="act" onClick={() => navigate(`/identify/${draft.plant}`)}>
        Identify it
        {seen ? ` (${seen} ${seen === 1 ? "observation" : "observations"} so far)` : ""}
      </Button>
      {name?.taxon && !name.probability && vocabulary.data && (
        <NotSeparatedFrom taxon={name.taxon} given={caseOf(draft, site)} vocabulary={vocabulary.data} />
      )}
      {last?.name && last.name.entered !== name?.entered && (
        <Button onClick={() => void sameAsLast()}>Same as the last tree: {last.name.entered}</Button>
      )}
      <NameSearch
        label="Or, where the name is known: scientific or common name"
        onTake={(n) => void take(n.name, n.taxon)}
        asEntered={(words) => void take(words)}
        onSame={last?.name ? sameAsLast : undefined}
        onEmpty={next}
      />
    </div>
  );
}
