import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import type { Schemas } from "@/api/client";
import { core } from "@/core";
import { useMember } from "@/shared/member";
import { useSaved } from "@/shared/outbox";
import { useToday } from "@/shared/records/place";
import { useBlocks, usePlant, useSites } from "@/shared/records/reads";
import { recordsOf, type TreeFileIn } from "./recordsOf";

export type TreeFile = Schemas["TreeFileOut"];
export type TreeJob = Schemas["JobOfTree"];
export type Point = Schemas["PointOfTree"];

interface Read {
  file: TreeFile | undefined;
  /** what the core was asked: the records of the tree, this device's own among them */
  given: TreeFileIn | undefined;
  unknown: boolean;
  /** how many visits of this device count in it that the server has not given back yet */
  unsent: number;
}

/**
 * What stands of a tree, as the core reads it from every visit: also those this device has not sent yet. unknown: nobody
 * can say now, for there is neither a core on the device nor a network.
 */
export function useTreeFile(plantId: string | undefined): Read {
  const plant = usePlant(plantId).data;
  const member = useMember();
  const visits = useSaved("visit");
  const corrections = useSaved("correction");
  const on = useToday(plant?.block_id);
  const block = useBlocks().data?.find((b) => b.id === plant?.block_id);
  const site = useSites().data?.find((s) => s.id === block?.site_id);
  const given = useMemo(
    () =>
      plantId
        ? {
            on,
            records: recordsOf(plantId, plant, [...visits, ...corrections], member.id),
            ...(plant?.merged_on ? { merged_on: plant.merged_on } : {}),
            ...(site
              ? { place: { lat: site.lat, lon: site.lon, elevation_m: site.elevation_m ?? null } }
              : {}),
          }
        : undefined,
    [plantId, plant, visits, corrections, on, site, member.id],
  );
  const read = useQuery({
    queryKey: ["tree file", given],
    enabled: given !== undefined,
    placeholderData: (before) => (before?.tree === plantId ? before : undefined),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
    queryFn: async () => ({ tree: plantId, file: await core.treeFile(given as NonNullable<typeof given>) }),
  });
  const told = given?.records.flatMap((r) => r.visits) ?? [];
  const unsent = told.filter((v) => v.entries.some((e) => !e.received_at)).length;
  return { file: read.data?.file, given, unknown: read.isError, unsent };
}
