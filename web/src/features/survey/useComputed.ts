import { useQuery } from "@tanstack/react-query";
import { api, unwrap } from "@/api/client";
import type { Measurement } from "@/shared/records/entries";

export interface Figure {
  value: number | null;
  thinner?: number;
  error?: string;
  warning?: string;
  error_m?: number;
}

/** The figure that follows from a measurement's readings. A single reading is its own figure; the rest the core computes. */
export function useComputed(m: Measurement | undefined, combine = "squares", leastCm = 0): Figure {
  const plain = m && typeof m.raw.value === "number" ? m.raw.value : null;
  const asked = useQuery({
    queryKey: ["compute", m?.quantity, m?.raw, combine, leastCm],
    enabled: m !== undefined && plain === null,
    retry: false,
    queryFn: async () =>
      unwrap(
        await api.POST("/api/size/compute/", {
          body: { quantity: m?.quantity ?? "dbh_cm", raw: m?.raw ?? {}, combine, least_cm: leastCm },
        }),
      ),
  });
  if (plain !== null) return { value: plain };
  const refusedHere = asked.error && "status" in asked.error ? asked.error.message : undefined;
  const { value = null, thinner, warning, error_m } = asked.data ?? {};
  return { value, thinner, error: refusedHere, warning, error_m };
}
