import { useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "@/api/client";

export type Coverage = Schemas["CoverageReport"];
export type CoverageRow = Schemas["CoverageRow"];
export type Regime = Schemas["RegimeIn"];
export type Level = NonNullable<Schemas["InspectionBody"]["level"]>;

export interface Asked {
  site: string | undefined;
  on: string;
  block: string;
  known: "then" | "now";
}

/** Of each tree when it was looked at, as of a day. Read anew each time: a day's evidence is not kept on a device. */
export function useCoverage({ site, on, block, known }: Asked) {
  return useQuery({
    queryKey: ["coverage", site, on, block, known],
    enabled: Boolean(site),
    queryFn: async () =>
      unwrap(
        await api.GET("/api/sites/{site_id}/coverage/", {
          params: {
            path: { site_id: site ?? "" },
            query: { on, known, ...(block ? { block: [block] } : {}) },
          },
        }),
      ),
  });
}

export function useRegime(site: string | undefined) {
  return useQuery({
    queryKey: ["regime", site],
    enabled: Boolean(site),
    queryFn: async () =>
      unwrap(await api.GET("/api/sites/{site_id}/regime/", { params: { path: { site_id: site ?? "" } } })),
  });
}

export function useReports(site: string | undefined) {
  return useQuery({
    queryKey: ["reports", site],
    enabled: Boolean(site),
    queryFn: async () =>
      unwrap(await api.GET("/api/sites/{site_id}/reports/", { params: { path: { site_id: site ?? "" } } })),
  });
}
