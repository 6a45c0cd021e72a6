import { useEffect, useState } from "react";
import { Field, Notice } from "@/shared/ui";
import { WhereAndWhen } from "@/shared/visit/WhereAndWhen";
import type { StepProps } from "./WalkPage";

/** Where and when: the tag to confirm, and the circumstances. */
export function WhereStep({ draft, row, change }: StepProps) {
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
      <WhereAndWhen draft={draft} change={change} />
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
