import { today } from "@/shared/dates";
import { useMember } from "@/shared/member";
import { useVocabulary } from "@/shared/records/reads";
import { Choice, Field, Select } from "@/shared/ui";
import type { StepProps } from "./WalkPage";

/** Where and when: everything the naming engine and the record need to know of the circumstances. */
export function WhereStep({ draft, row, change }: StepProps) {
  const member = useMember();
  const vocabulary = useVocabulary();
  const latest = today(member);
  const late = draft.local_date > latest;
  return (
    <div className="grid gap-4">
      {row?.tag ? (
        <p>
          Read the tag on the stem: is it <strong className="figure text-xl">{row.tag}</strong>? If not, go back to the plan.
        </p>
      ) : (
        <Field label="Tag" value={draft.tag} maxLength={20} onChange={(e) => void change({ tag: e.target.value.trim() })} />
      )}
      <Field
        label="Date of the visit"
        type="date"
        value={draft.local_date}
        error={late ? `${draft.local_date} lies in the future; today is ${latest}.` : undefined}
        onChange={(e) => e.target.value && void change({ local_date: e.target.value })}
      />
      <Select label="Setting" value={draft.setting} onChange={(e) => void change({ setting: e.target.value })}>
        {vocabulary.data?.settings.map((s) => (
          <option key={s.id} value={s.id}>
            {s.label}
          </option>
        ))}
      </Select>
      <Choice
        label="Origin"
        value={draft.origin}
        onChange={(origin) => void change({ origin })}
        options={[
          { id: "wild", label: "wild" },
          { id: "planted", label: "planted" },
          { id: "unknown", label: "not known" },
        ]}
      />
      <Choice label="Life stage" value={draft.stage} onChange={(stage) => void change({ stage })} options={vocabulary.data?.stages ?? []} />
    </div>
  );
}
