import { inWords } from "@/shared/dates";
import { saysSomething } from "@/shared/records/draft";
import { entryInWords, inReadingOrder } from "@/shared/records/labels";
import { useVocabulary } from "@/shared/records/reads";
import { Notice } from "@/shared/ui";
import type { StepProps } from "./SurveyPage";

/** Everything once more before it is saved: every entry as History will show it. */
export function SaveStep({ draft, site }: StepProps) {
  const vocabulary = useVocabulary().data;
  const entries = inReadingOrder(
    draft.entries.map((e) => ({ ...e, recorded_at: "" })),
    vocabulary,
  );
  const rows: [string, string][] = [
    ["When", inWords(draft.local_date)],
    ["Where", `${draft.setting.replaceAll("_", " ")}, ${draft.origin}, ${draft.stage}`],
    ...entries.map((e): [string, string] => {
      const { what, said } = entryInWords(e, vocabulary, site?.condition_scale);
      return [what, said];
    }),
  ];
  return (
    <>
      {!saysSomething(draft) && (
        <Notice kind="caution" title="Nothing is recorded yet.">
          Go back to any step, or write in a note what was looked at and found in order.
        </Notice>
      )}
      <dl className="border-t border-rule">
        {rows.map(([what, said], i) => (
          <div key={i} className="grid grid-cols-[8rem_1fr] gap-2 border-b border-rule py-2">
            <dt className="text-soft">{what}</dt>
            <dd className="break-words">{said}</dd>
          </div>
        ))}
      </dl>
    </>
  );
}
