import { useEffect, useState } from "react";
import { today } from "@/shared/dates";
import { useMember } from "@/shared/member";
import { useVocabulary } from "@/shared/records/reads";
import { Choice, Field, Notice, Select } from "@/shared/ui";
import type { StepProps } from "./WalkPage";

/** Where and when: everything the naming engine and the record need to know of the circumstances. */
export function WhereStep({ draft, row, change }: StepProps) {
  const member = useMember();
  const vocabulary = useVocabulary();
  const latest = today(member);
  const [typed, setTyped] = useState(draft.local_date);
  const late = typed > latest;
  return (
    <div className="grid gap-4">
      <DiskRoom />
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
        value={typed}
        max={latest}
        error={late ? `${typed} lies in the future; today is ${latest}. The visit keeps ${draft.local_date}.` : undefined}
        onChange={(e) => {
          setTyped(e.target.value);
          if (e.target.value && e.target.value <= latest) void change({ local_date: e.target.value });
        }}
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

const LEAST_BYTES = 50_000_000;

/** Said before the sheet is filled in: a device without room would lose what is typed. */
function DiskRoom() {
  const [left, setLeft] = useState<number | null>(null);
  useEffect(() => {
    void navigator.storage?.estimate?.().then(({ quota, usage }) => quota !== undefined && setLeft(quota - (usage ?? 0)));
  }, []);
  if (left === null || left >= LEAST_BYTES) return null;
  return (
    <Notice kind="caution" title="This device is nearly full.">
      {Math.round(left / 1_000_000)} MB are left for records and photographs. Send what is kept here and make room before going on.
    </Notice>
  );
}
