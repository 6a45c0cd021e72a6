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
  /** wires hold it still, whatever a later look saw */
  wires: boolean;
  by: string;
  sent: boolean;
}

const WIRES = "wires";
const PERSON = "person";
const BUILDING = "building";
const ROAD = "road";
const PATH = "path";
const URGENCY: (string | undefined)[] = ["clear_now", "assessor", "clear_later"];

/** The list in which a storm is dealt with: each tree stands in the first group it belongs to. */
export const GROUPS = [
  { id: PERSON, label: "People", holds: ({ look }: Looked) => look?.under_it.includes(PERSON) },
  { id: WIRES, label: "Wires", holds: ({ look, wires }: Looked) => wires || look?.under_it.includes(WIRES) },
  {
    id: BUILDING,
    label: "Building, or a path people use",
    holds: ({ look }: Looked) => look?.blocks === BUILDING || look?.blocks === PATH,
  },
  { id: ROAD, label: "Road", holds: ({ look }: Looked) => look?.blocks === ROAD },
  { id: "rest", label: "The rest", holds: () => true },
] as const;

export const groupOf = (looked: Looked) => GROUPS.find((g) => g.holds(looked))?.id ?? "rest";

/** The more urgent first. */
export const byUrgency = (a: Looked, b: Looked) => rank(a) - rank(b);
const rank = ({ look }: Looked) =>
  (URGENCY.indexOf(look?.next_step) + URGENCY.length + 1) % (URGENCY.length + 1);

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
  const wiresSeen = new Set(
    items.flatMap(({ body, state }) => {
      if (state === "sent") return []; // the server says then whether it is held
      const visit = body as Schemas["VisitIn"];
      const seen = visit.entries?.some((e) => e.kind === "storm" && e.body.under_it.includes(WIRES));
      return seen && visit.local_date >= since ? [visit.plant] : [];
    }),
  );
  const looks = rows.map((row): Looked => {
    const mine = own.get(row.id);
    const theirs = there.get(row.id);
    const newer = mine && (!theirs || Date.parse(mine.at) >= Date.parse(theirs.at)) ? mine : undefined;
    return {
      row,
      look: newer?.look ?? theirs?.body,
      wires: Boolean(theirs?.wires) || wiresSeen.has(row.id),
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
