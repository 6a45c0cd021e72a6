import { useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "@/api/client";
import type { Draft } from "@/shared/records/draft";
import type { Quantity } from "@/shared/records/entries";

/** What speaks against a figure, and the last visit's figure: asked only once the new one is in. */
export function usePlausibility(
  draft: Draft,
  quantity: Quantity,
  value: number | null,
  more: { at_height_m?: number; dbh_cm?: number | null; height_m?: number | null; taxon?: string },
): Schemas["Plausibility"] | undefined {
  const body = { plant: draft.plant, quantity, value: value ?? 0, on: draft.local_date, ...more };
  return useQuery({
    queryKey: ["plausibility", body],
    enabled: value !== null,
    retry: false,
    queryFn: async () => unwrap(await api.POST("/api/size/plausibility/", { body })),
  }).data;
}
