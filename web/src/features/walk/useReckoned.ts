import { useQuery } from "@tanstack/react-query";
import { api, unwrap } from "@/api/client";
import type { DraftMeasurement } from "@/shared/records/draft";

/** The figure that follows from a measurement's readings. A single reading is its own figure; the rest the core reckons. */
export function useReckoned(
  m: DraftMeasurement | undefined,
  combine = "squares",
): { value: number | null; error?: string; warning?: string; error_m?: number } {
  const plain = m && typeof m.raw.value === "number" ? m.raw.value : null;
  const asked = useQuery({
    queryKey: ["reckon", m?.quantity, m?.raw, combine],
    enabled: m !== undefined && plain === null,
    retry: false,
    queryFn: async () =>
      unwrap(await api.POST("/api/size/reckon/", { body: { quantity: m?.quantity ?? "dbh_cm", raw: m?.raw ?? {}, combine } })),
  });
  if (plain !== null) return { value: plain };
  const refusedHere = asked.error && "status" in asked.error ? asked.error.message : undefined;
  return { value: asked.data?.value ?? null, error: refusedHere, warning: asked.data?.warning, error_m: asked.data?.error_m };
}
