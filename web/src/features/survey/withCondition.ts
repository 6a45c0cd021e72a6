import { type Draft, withOne } from "@/shared/records/draft";
import { type BodyOf, entriesOf, entryOf } from "@/shared/records/entries";

/** The condition with some of it judged anew. An inspection of the visit saw what the condition says was seen. */
export function withCondition(now: Draft, part: Partial<BodyOf<"condition">>): Partial<Draft> {
  const judged = withOne(now, "condition", { ...entryOf(now, "condition")?.body, ...part });
  const { level, no_access } = entryOf(now, "inspection")?.body ?? {};
  return level ? withInspection({ ...now, ...judged }, level, no_access) : judged;
}

/** The inspection of a visit at a level; null takes it out. What was seen stands under condition, said once. */
export function withInspection(
  now: Draft,
  level: BodyOf<"inspection">["level"] | null,
  no_access = "",
): Partial<Draft> {
  if (!level) return withOne(now, "inspection", null);
  if (no_access) return withOne(now, "inspection", { level, no_access });
  const { base_visible = "", crown_visible = "", no_defect = false } = entryOf(now, "condition")?.body ?? {};
  const found = no_defect && entriesOf(now, "defect").length === 0;
  return withOne(now, "inspection", { level, base_visible, crown_visible, no_defect: found });
}
