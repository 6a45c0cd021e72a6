import type { BodyOf } from "@/shared/records/entries";
import { entryOf } from "@/shared/records/entries";
import type { Vocabulary } from "@/shared/records/reads";
import { Button, Choice } from "@/shared/ui";
import { SaidField } from "./SaidField";
import type { StepProps } from "./stepProps";
import { withCondition, withInspection } from "./withCondition";

type Level = BodyOf<"inspection">["level"];
type Condition = BodyOf<"condition">;

interface Props extends Pick<StepProps, "draft" | "change"> {
  vocabulary: Vocabulary;
  /** base and crown are asked for elsewhere on the sheet */
  asksWhatWasSeen: boolean;
}

const SEEN = [
  { part: "base_visible", label: "Base seen" },
  { part: "crown_visible", label: "Crown seen" },
] as const;

/** That this visit is an inspection, and at which level; one tap, and what was seen of base and crown counts for it. */
export function InspectionRow({ draft, change, vocabulary, asksWhatWasSeen }: Props) {
  const kind = vocabulary.records.kinds.find((k) => k.id === "inspection");
  const levels = kind?.fields.find((f) => f.id === "level");
  const { level = "", no_access = "" } = entryOf(draft, "inspection")?.body ?? {};
  const seen: Condition = entryOf(draft, "condition")?.body ?? {};
  const missing = [...(seen.base_visible ? [] : ["base"]), ...(seen.crown_visible ? [] : ["crown"])];
  return (
    <section aria-label="Inspection" className="grid gap-2 border-t border-rule pt-3">
      <Choice
        label="This visit is an inspection"
        meaning={levels?.meaning}
        value={level}
        onChange={(word) => void change((now) => withInspection(now, word as Level, no_access))}
        options={levels?.words ?? []}
      />
      {level && (
        <SaidField
          label="Nobody could get to it: why"
          value={no_access}
          onSay={(why) => void change((now) => withInspection(now, level as Level, why))}
        />
      )}
      {no_access && (
        <p className="text-sm text-soft" role="status">
          Recorded as an attempt, and no inspection: it stays due.
        </p>
      )}
      {level &&
        !no_access &&
        asksWhatWasSeen &&
        SEEN.map(({ part, label }) => (
          <Choice
            key={part}
            label={label}
            value={seen[part] ?? ""}
            onChange={(word) => void change((now) => withCondition(now, { [part]: word }))}
            options={vocabulary.judged[part] ?? []}
          />
        ))}
      {level && !no_access && level !== "limited_visual" && missing.length > 0 && (
        <p className="text-sm text-soft" role="status">
          Not recorded as an inspection until it is said how much of {missing.join(" and ")} was seen.
        </p>
      )}
      {level && (
        <Button weight="quiet" onClick={() => void change((now) => withInspection(now, null))}>
          No inspection
        </Button>
      )}
    </section>
  );
}
