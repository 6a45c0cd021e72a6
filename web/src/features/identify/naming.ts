import { queryOptions } from "@tanstack/react-query";
import type { Schemas } from "@/api/client";
import { type Case, core } from "@/core";

export type Answer = Schemas["NamingAnswer"];

// An answer never goes stale: the same case has the same answer as long as the page is open.
const kept = { retry: false, staleTime: Number.POSITIVE_INFINITY } as const;

/** The ranking: on screen while the next observation is still being weighed. */
export const ranked = (given: Case) =>
  queryOptions({ ...kept, queryKey: ["rank", given], queryFn: () => core.rank(given) });

/** What to look at next. */
export const next = (given: Case) =>
  queryOptions({ ...kept, queryKey: ["next", given], queryFn: () => core.nextObservations(given) });
