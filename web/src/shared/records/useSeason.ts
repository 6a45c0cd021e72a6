import { useQuery } from "@tanstack/react-query";
import { core } from "@/core";
import { savedCopy } from "@/shared/outbox";
import { useCounts, usePlaceOf } from "./place";

/** What the plants of a block show on a day and through the year. */
export function useSeason(blockId: string | undefined, on: string) {
  const counts = useCounts(blockId);
  const place = usePlaceOf(blockId);
  return useQuery({
    queryKey: ["season", blockId, on, place, counts.data],
    enabled: Boolean(blockId) && place.place !== undefined && !counts.isPending,
    queryFn: () =>
      savedCopy(`season ${blockId}`, () => core.season({ on, ...place, counts: counts.data ?? {} })),
  });
}
