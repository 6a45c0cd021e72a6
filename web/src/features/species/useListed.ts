import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "@/api/client";
import { core } from "@/core";
import { savedCopy } from "@/shared/outbox";
import { useCounts, usePlaceOf } from "@/shared/records/place";

export type Listed = Schemas["Listed"];

/** The list of the flora for a day and a block's season; kept for offline. */
export function useListed(on: string, block: string | undefined) {
  const counts = useCounts();
  const place = usePlaceOf(block);
  return useQuery({
    queryKey: ["species list", on, place, counts.data],
    enabled: !counts.isPending,
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () =>
      savedCopy("species list", () => core.speciesList({ on, ...place, counts: counts.data ?? {} })),
  });
}

export interface Narrowing {
  words: string;
  form: string;
  shows: string;
  area: string;
  status: string;
  here: boolean;
}

/** The taxa that fit. `byName`: ids the server found for the words, by synonym or likely spelling. */
export function narrowed(taxa: Listed[], by: Narrowing, byName: Set<string>): Listed[] {
  const wanted = by.words.toLowerCase().split(/\s+/).filter(Boolean);
  return taxa.filter(
    (t) =>
      (wanted.every((w) => `${t.name} ${t.common}`.toLowerCase().includes(w)) || byName.has(t.taxon)) &&
      (!by.form || t.form === by.form) &&
      (!by.shows || t.shows.includes(by.shows)) &&
      (!by.here || t.plants > 0) &&
      fitsArea(t, by.area, by.status),
  );
}

function fitsArea(t: Listed, area: string, status: string): boolean {
  const lists = status
    ? [t[status as "native" | "introduced" | "invasive"]]
    : [t.native, t.introduced, t.invasive];
  return area
    ? lists.some((codes) => codes.includes(area))
    : !status || lists.some((codes) => codes.length > 0);
}
