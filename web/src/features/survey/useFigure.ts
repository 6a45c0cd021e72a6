import type { Schemas } from "@/api/client";
import type { Draft } from "@/shared/records/draft";
import type { EntryOf } from "@/shared/records/entries";
import type { Site } from "@/shared/records/reads";
import { useVisitCheck } from "./useVisitCheck";

export interface Figure {
  value: number | null;
  error: string | undefined;
  /** it cannot be checked now */
  offline: boolean;
  /** what the core made of it, once it has */
  checked: Schemas["CheckedFigure"] | undefined;
}

/** The figure of a measurement. A single reading is its own figure at once; the rest the core computes. */
export function useFigure(
  draft: Draft,
  site: Site | undefined,
  taken: EntryOf<"measurement"> | undefined,
): Figure {
  const check = useVisitCheck(draft, site);
  const answer = check.stale ? undefined : check.of(taken);
  const plain = taken?.body.raw.value ?? null;
  return {
    value: answer?.figure?.value ?? plain,
    error: answer?.refused?.message,
    offline: check.offline,
    checked: answer?.figure ?? undefined,
  };
}
