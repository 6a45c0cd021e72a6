import { type Draft, withOne } from "@/shared/records/draft";
import { type BodyOf, entryOf } from "@/shared/records/entries";

/** The condition with some of it judged anew. */
export const withCondition = (now: Draft, part: Partial<BodyOf<"condition">>) =>
  withOne(now, "condition", { ...entryOf(now, "condition")?.body, ...part });
