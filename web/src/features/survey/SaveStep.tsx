import { inWords } from "@/shared/dates";
import { halfFilled, saysSomething } from "@/shared/records/draft";
import { entryInWords, inReadingOrder, useWording } from "@/shared/records/labels";
import { Notice } from "@/shared/ui";
import type { StepProps } from "./stepProps";

const NOT_WHOLE = {
  risk: "The risk worksheet is not whole.",
  inspection: "The inspection does not say how much was seen.",
};

/** Everything once more before it is saved: every entry as History will show it. */
export function SaveStep({ draft }: StepProps) {
  const wording = useWording();
  const entries = inReadingOrder(
    draft.entries.map((e) => ({ ...e, recorded_at: "" })),
    wording.vocabulary,
  );
  const rows: [string, string][] = [
    ["When", inWords(draft.local_date)],
    ["Where", `${draft.setting.replaceAll("_", " ")}, ${draft.origin}, ${draft.stage}`],
    ...entries.map((e): [string, string] => {
      const { what, said } = entryInWords(e, wording);
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
      {halfFilled(draft).map(({ kind }) => (
        <Notice key={kind} kind="caution" title={NOT_WHOLE[kind]}>
          It is not recorded with this visit. It stays on this device as a draft of this tree; go back to
          Condition to finish or remove it.
        </Notice>
      ))}
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
