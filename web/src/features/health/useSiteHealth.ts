import { useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "@/api/client";
import { savedCopy } from "@/shared/outbox";

export type SiteHealth = Schemas["SiteHealth"];

/** A site's plant health on a day: the last copy of it while offline. */
export function useSiteHealth(site: string | undefined, on: string) {
  return useQuery({
    queryKey: ["site health", site, on],
    enabled: Boolean(site && on),
    queryFn: () =>
      savedCopy(`site health ${site}`, async () =>
        unwrap(
          await api.GET("/api/sites/{site_id}/health/", {
            params: { path: { site_id: site ?? "" }, query: { on } },
          }),
        ),
      ),
  });
}

/** Plants that have or had a cause, oldest first. */
export function useSpread(site: string | undefined, cause: string) {
  return useQuery({
    queryKey: ["spread", site, cause],
    enabled: Boolean(site),
    queryFn: () =>
      savedCopy(`spread ${site} ${cause}`, async () =>
        unwrap(
          await api.GET("/api/sites/{site_id}/spread/{cause}/", {
            params: { path: { site_id: site ?? "", cause } },
          }),
        ),
      ),
  });
}
