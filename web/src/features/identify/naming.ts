import { queryOptions } from "@tanstack/react-query";
import { api, unwrap } from "@/api/client";
import type { caseOf } from "@/shared/records/draft";

/** The answer to a case. It never goes stale: the same case has the same answer as long as the page is open. */
export const named = (given: ReturnType<typeof caseOf>) =>
  queryOptions({
    queryKey: ["name", given],
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () => unwrap(await api.POST("/api/core/name/", { body: given })),
  });

/** The ranking alone: on screen while the next look is still being weighed. */
export const ranked = (given: ReturnType<typeof caseOf>) =>
  queryOptions({
    queryKey: ["rank", given],
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () =>
      unwrap(await api.POST("/api/core/name/", { params: { query: { look_ahead: "no" } }, body: given })),
  });
