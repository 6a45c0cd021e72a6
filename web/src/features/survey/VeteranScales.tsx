import { type BodyOf, entryOf } from "@/shared/records/entries";
import type { Vocabulary } from "@/shared/records/reads";
import { Choice } from "@/shared/ui";
import type { StepProps } from "./stepProps";
import { useVisitCheck } from "./useVisitCheck";
import { withCondition } from "./withCondition";

type Condition = BodyOf<"condition">;
interface Props extends Pick<StepProps, "draft" | "change" | "site"> {
  vocabulary: Vocabulary;
}

/** A veteran by two scales, and what they ask for; no sum is made of them. */
export function VeteranScales({ draft, change, vocabulary, site }: Props) {
  const entry = entryOf(draft, "condition");
  const needs = useVisitCheck(draft, site).of(entry)?.condition?.veteran_needs;
  const fields = vocabulary.records.kinds.find((k) => k.id === "condition")?.fields;
  const field = (id: string) => fields?.find((f) => f.id === id);
  const judge = (part: Partial<Condition>) => void change((now) => withCondition(now, part));
  return (
    <section className="grid gap-3 border border-rule p-3" aria-label="Veteran">
      {(["vitality", "stability"] as const).map((scale) => (
        <Choice
          key={scale}
          label={field(scale)?.label ?? scale}
          meaning={field(scale)?.meaning}
          value={entry?.body[scale] ?? ""}
          onChange={(word) => judge({ [scale]: word })}
          options={vocabulary.judged[scale] ?? []}
        />
      ))}
      {needs && (
        <p aria-live="polite">
          Needs:{" "}
          <strong className="text-xl">
            {field("veteran_needs")?.words?.find((w) => w.id === needs)?.label ?? needs}
          </strong>
        </p>
      )}
    </section>
  );
}
