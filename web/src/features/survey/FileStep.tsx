import { newId } from "@/shared/ids";
import {
  type EntryIn,
  entriesOf,
  FILE_KINDS,
  type FileKind,
  missingIn,
  withEdited,
  withoutEntry,
} from "@/shared/records/entries";
import { type Body, RecordForm } from "@/shared/records/RecordForm";
import { useVocabulary } from "@/shared/records/reads";
import { labelIn, useUnits } from "@/shared/site/units";
import { Button } from "@/shared/ui";
import type { StepProps } from "./stepProps";

/** What a tree's file holds besides, by the sections the site has switched on; each a form as the core describes it. */
export function FileStep({ draft, change, site }: StepProps) {
  const vocabulary = useVocabulary().data;
  const units = useUnits();
  const kept = FILE_KINDS.filter((kind) => site?.sections.includes(kind));
  if (!vocabulary) return null;
  const put = (kind: FileKind, id: string, body: Body) =>
    void change((now) => ({
      entries: withEdited(now.entries, draft.entries, { id, kind, body } as unknown as EntryIn),
    }));
  return (
    <div className="grid gap-6">
      {kept.map((kind) => {
        const told = vocabulary.records.kinds.find((k) => k.id === kind);
        return (
          <section key={kind} aria-label={told?.label} className="grid gap-3">
            <div>
              <h2 className="text-xl">{told?.label}</h2>
              <p className="text-sm text-soft">{told?.meaning}</p>
            </div>
            {entriesOf(draft, kind).map((entry, i) => {
              const body = entry.body as unknown as Body;
              const missing = missingIn(kind, body);
              return (
                <fieldset key={entry.id} className="grid gap-3 border border-rule p-3">
                  <legend className="px-1 font-bold">
                    {told?.label} {i + 1}
                  </legend>
                  <RecordForm
                    fields={told?.fields ?? []}
                    value={body}
                    onChange={(next) => put(kind, entry.id, next)}
                    vocabulary={vocabulary}
                  />
                  {missing.length > 0 && (
                    <p className="text-sm text-soft">
                      Needed before it is recorded:{" "}
                      {missing
                        .map((field) => told?.fields.find((f) => f.id === field))
                        .map((f) => f && labelIn(units, f.label, f.unit).toLowerCase())
                        .join(", ")}
                      .
                    </p>
                  )}
                  <Button
                    weight="warn"
                    onClick={() => void change((now) => ({ entries: withoutEntry(now.entries, entry.id) }))}
                  >
                    Remove {told?.label.toLowerCase()} {i + 1}
                  </Button>
                </fieldset>
              );
            })}
            <Button onClick={() => put(kind, newId(), {})}>Add {told?.label.toLowerCase()}</Button>
          </section>
        );
      })}
    </div>
  );
}
