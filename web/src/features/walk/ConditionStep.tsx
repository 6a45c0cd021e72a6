import { useVocabulary } from "@/shared/records/reads";
import { Choice, Notice } from "@/shared/ui";
import type { StepProps } from "./WalkPage";

/** Condition in one word, each with what earns it. */
export function ConditionStep({ draft, change }: StepProps) {
  const vocabulary = useVocabulary();
  const month = Number(draft.local_date.slice(5, 7));
  return (
    <div className="grid gap-4">
      <Choice
        label="The whole stem, in one word"
        wide
        value={draft.condition}
        onChange={(condition) => void change({ condition })}
        options={(vocabulary.data?.conditions ?? []).map((c) => ({ id: c.id, label: c.label, hint: c.help }))}
      />
      {draft.condition === "dead" && (month >= 11 || month <= 4) && (
        <Notice kind="caution" title="Leafless is not dead.">
          Scratch no bark; look at twigs and buds, or come back in leaf. Larch, bald-cypress and late leafers mislead.
        </Notice>
      )}
      <p className="text-sm text-soft">A limited visual look. A qualified assessor decides on risk.</p>
    </div>
  );
}
