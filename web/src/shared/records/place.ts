import { useQuery } from "@tanstack/react-query";
import { api, unwrap } from "@/api/client";
import type { Place } from "@/core";
import { today } from "@/shared/dates";
import { useMember } from "@/shared/member";
import { savedCopy } from "@/shared/outbox";
import { type Site, useBlocks, useSites } from "./reads";

/** Where a site is, as the core takes it. */
export const placeOf = ({ lat, lon, elevation_m }: Pick<Site, "lat" | "lon" | "elevation_m">): Place => ({
  lat,
  lon,
  elevation_m,
});

/** The site of a block; undefined until both have been read. */
export function useSiteOf(blockId: string | undefined): Site | undefined {
  const blocks = useBlocks();
  const sites = useSites();
  const siteId = blocks.data?.find((b) => b.id === blockId)?.site_id;
  return sites.data?.find((s) => s.id === siteId);
}

/** Today at the site of a block. */
export function useToday(blockId: string | undefined): string {
  const member = useMember();
  return today(member, useSiteOf(blockId));
}

/** Part of a request of the core: the place of a block, where there is one. */
export function usePlaceOf(blockId: string | undefined): { place?: Place } {
  const site = useSiteOf(blockId);
  return site ? { place: placeOf(site) } : {};
}

/** How many plants bear each name, in a block or in the whole organisation: the counts of the core. */
export function useCounts(blockId?: string) {
  return useQuery({
    queryKey: ["by taxon", blockId ?? ""],
    queryFn: () =>
      savedCopy(`by taxon ${blockId ?? ""}`, async () =>
        unwrap(
          await api.GET("/api/plants/by-taxon/", {
            params: { query: blockId === undefined ? {} : { block: blockId } },
          }),
        ),
      ),
  });
}
