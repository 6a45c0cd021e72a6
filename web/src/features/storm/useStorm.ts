import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "@/api/client";
import { core } from "@/core";
import { keptOnDevice } from "@/shared/keptOnDevice";
import { useMember } from "@/shared/member";
import { savedCopy, useSaved } from "@/shared/outbox";
import type { Row } from "@/shared/records/reads";

export type Look = Schemas["StormBody"];

/** The storm that is being dealt with: which block, and since which day looks count. */
export interface Storm {
  block: string;
  since: string;
}

const storm = keptOnDevice<Storm>("jubark storm");
export const useStormNow = storm.use;
export const setStorm = storm.put;

/** A tree and the newest look at it, where there is one. */
export interface Looked {
  row: Row;
  look: Look | undefined;
  by: string;
  sent: boolean;
}

const WIRES = "wires";
const PERSON = "person";
const ROAD = "road";

/** The list in which a storm is dealt with: each tree stands in the first group it belongs to. */
export const GROUPS = [
  { id: WIRES, label: "Wires", holds: (l: Look) => l.under_it === WIRES },
  { id: PERSON, label: "People", holds: (l: Look) => l.under_it === PERSON },
  { id: ROAD, label: "Road", holds: (l: Look) => l.blocks === ROAD },
  { id: "rest", label: "The rest", holds: () => true },
] as const;

export const groupOf = (look: Look) => GROUPS.find((g) => g.holds(look))?.id ?? "rest";

/** The trees of a block with what was seen of them since the storm: by others as last read, by this device at once. */
export function useLooks({ block, since }: Storm, rows: Row[]): { looks: Looked[]; error: Error | null } {
  const member = useMember();
  const items = useSaved("visit");
  const sent = items.filter((i) => i.state === "sent").length;
  const query = useQuery({
    queryKey: ["storm", block, since, sent], // read anew when something of this device has arrived
    placeholderData: keepPreviousData,
    refetchInterval: 30_000,
    queryFn: () =>
      savedCopy(`storm ${block} ${since}`, async () =>
        unwrap(
          await api.GET("/api/blocks/{block_id}/storm/", {
            params: { path: { block_id: block }, query: { since } },
          }),
        ),
      ),
  });
  const there = new Map(query.data?.map((l) => [l.plant, l]));
  const own = new Map(
    items.flatMap((item) => {
      const visit = item.body as Schemas["VisitIn"];
      const entry = visit.entries?.find((e) => e.kind === "storm");
      const mine = { look: entry?.body as Look, at: visit.observed_at, sent: item.state === "sent" };
      return entry && visit.local_date >= since ? [[visit.plant, mine] as const] : [];
    }),
  );
  const looks = rows.map((row): Looked => {
    const mine = own.get(row.id);
    const theirs = there.get(row.id);
    const newer = mine && (!theirs || Date.parse(mine.at) >= Date.parse(theirs.at)) ? mine : undefined;
    return {
      row,
      look: newer?.look ?? theirs?.body,
      by: newer ? member.shown_name : (theirs?.by ?? ""),
      sent: newer?.sent ?? true,
    };
  });
  return { looks, error: query.data ? null : query.error };
}

/** Which trees that are down were probably entered twice. Asked of the core; without it nothing is said. */
export function useDoubles(looks: Looked[]) {
  const down = looks.flatMap(({ row, look, by }) =>
    look?.lies && look.lies !== "standing" && row.lat !== null && row.lon !== null
      ? [{ tree: row.id, by, lat: row.lat, lon: row.lon }]
      : [],
  );
  return (
    useQuery({
      queryKey: ["storm doubles", down],
      enabled: down.length > 1,
      placeholderData: keepPreviousData,
      queryFn: () => core.stormDoubles({ down }),
    }).data ?? []
  );
}
