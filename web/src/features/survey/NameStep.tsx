import { useMemo } from "react";
import { useNavigate } from "react-router";
import { NotToldFrom } from "@/features/identify";
import { newId } from "@/shared/ids";
import { NameSearch } from "@/shared/names/NameSearch";
import { caseOf } from "@/shared/records/draft";
import { useVocabulary } from "@/shared/records/reads";
import { Button } from "@/shared/ui";
import { lastAnswers } from "./lastAnswers";
import type { StepProps } from "./SurveyPage";

/** The name: by observations in Identify, or straight in when it is known. */
export function NameStep({ draft, row, change, site }: StepProps) {
  const navigate = useNavigate();
  const last = lastAnswers();
  const vocabulary = useVocabulary();
  const kinds = useMemo(
    () => new Map(vocabulary.data?.characters.map((c) => [c.id, c.kind])),
    [vocabulary.data],
  );
  const take = (entered: string, taxon?: string) =>
    void change({ name: { id: newId(), entered, taxon, reason: "known to the observer" } });
  return (
    <div className="grid gap-5">
      {draft.name ? (
        <p>
          Name on this visit: <strong className="latin text-xl">{draft.name.entered}</strong>
          {draft.name.probability ? `, ${Math.round(draft.name.probability * 100)} %` : ""}{" "}
          <button
            type="button"
            className="target text-rust underline"
            onClick={() => void change({ name: null })}
          >
            remove
          </button>
        </p>
      ) : (
        <p className="text-soft">
          {row?.name
            ? `So far it stands as ${row.name}. Leave this step to let that stand.`
            : "Not named yet."}
        </p>
      )}
      <Button weight="act" onClick={() => navigate(`/identify/${draft.plant}`)}>
        Identify it
        {draft.looks.length ? ` (${draft.looks.length} observations so far)` : ""}
      </Button>
      {draft.name?.taxon && !draft.name.probability && vocabulary.data && (
        <NotToldFrom
          taxon={draft.name.taxon}
          given={caseOf(draft, site, kinds)}
          vocabulary={vocabulary.data}
        />
      )}
      {last?.name && last.name.entered !== draft.name?.entered && (
        <Button onClick={() => take(last.name?.entered ?? "", last.name?.taxon)}>
          Same as the last tree: {last.name.entered}
        </Button>
      )}
      <NameSearch
        label="Or, where the name is known: scientific or common name"
        onTake={(n) => take(n.name, n.taxon)}
        asEntered={(words) => take(words)}
      />
    </div>
  );
}
