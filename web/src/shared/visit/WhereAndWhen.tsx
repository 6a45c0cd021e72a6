import { useState } from "react";
import { today } from "@/shared/dates";
import { useMember } from "@/shared/member";
import type { Draft } from "@/shared/records/draft";
import { useVocabulary } from "@/shared/records/reads";
import { Choice, Field, Select } from "@/shared/ui";

/** Everything the naming engine and the record need to know of the circumstances: date, setting, origin, life stage. */
export function WhereAndWhen({
  draft,
  change,
}: {
  draft: Draft;
  change: (part: Partial<Draft>) => Promise<unknown>;
}) {
  const member = useMember();
  const vocabulary = useVocabulary();
  const latest = today(member);
  const [typed, setTyped] = useState(draft.local_date);
  const late = typed > latest;
  return (
    <>
      <Field
        label="Date of the visit"
        type="date"
        value={typed}
        max={latest}
        error={
          late
            ? `${typed} lies in the future; today is ${latest}. The visit keeps ${draft.local_date}.`
            : undefined
        }
        onChange={(e) => {
          setTyped(e.target.value);
          if (e.target.value && e.target.value <= latest) void change({ local_date: e.target.value });
        }}
      />
      <Select
        label="Setting"
        value={draft.setting}
        onChange={(e) => void change({ setting: e.target.value })}
      >
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
      <Choice
        label="Life stage"
        value={draft.stage}
        onChange={(stage) => void change({ stage })}
        options={vocabulary.data?.stages ?? []}
      />
    </>
  );
}
