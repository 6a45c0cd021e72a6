import type { Schemas } from "@/api/client";
import type { OutboxItem } from "@/shared/outbox";
import type { Plant } from "@/shared/records/reads";

export type TreeFileIn = Schemas["TreeFileIn"];
type VisitOfFile = TreeFileIn["records"][number]["visits"][number];
type EntryOfFile = VisitOfFile["entries"][number];

const COUNTS = ["saved", "waiting", "sent"]; // not what the server refused

/**
 * The records of a tree as its file takes them: what the server gave, and what this device recorded and the server has
 * not given back yet, each visit under the id it was recorded under.
 */
export function recordsOf(
  id: string,
  plant: Plant | undefined,
  items: OutboxItem[],
  member?: string,
): TreeFileIn["records"] {
  const records = new Map<string, VisitOfFile[]>([[id, []], ...(plant?.duplicates ?? []).map(none)]);
  const there = new Set<string>();
  for (const visit of plant?.visits ?? []) {
    there.add(visit.id);
    const entries = visit.entries.map((e): EntryOfFile => {
      there.add(e.id);
      return {
        id: e.id,
        kind: e.kind,
        received_at: e.received_at,
        ...(e.by ? { by: e.by } : {}),
        ...(e.body ? { body: e.body as Record<string, unknown> } : {}),
        ...(e.replaces ? { replaces: e.replaces } : {}),
        ...(e.retracts ? { retracts: e.retracts } : {}),
      };
    });
    const { local_date, observed_at, mode, clock_doubtful, stage } = visit;
    // a copy that was kept before the server said the record has none: it is the tree's own
    records.get((visit.record as string | undefined) ?? id)?.push({
      id: visit.id,
      local_date,
      observed_at,
      entries,
      ...(mode ? { mode } : {}),
      ...(stage ? { stage } : {}),
      ...(clock_doubtful ? { clock_doubtful } : {}),
    });
  }
  const own = items.filter((i) => COUNTS.includes(i.state) && !there.has(i.id));
  for (const { body } of own.filter((i) => i.kind === "visit")) {
    const visit = body as Schemas["VisitIn"];
    const { id: visitId, local_date, observed_at, mode, stage } = visit;
    records.get(visit.plant)?.push({
      id: visitId,
      local_date,
      observed_at,
      ...(mode ? { mode } : {}),
      ...(stage ? { stage } : {}),
      entries: (visit.entries ?? []).map((e) => ({
        id: e.id,
        kind: e.kind,
        body: e.body as Record<string, unknown>,
        ...(member ? { by: member } : {}),
      })),
    });
  }
  for (const { body } of own.filter((i) => i.kind === "correction")) {
    const said = body as EntryOfFile & { replaces?: string | null; retracts?: string | null };
    const named = said.replaces ?? said.retracts;
    const visits = [...records.values()].flat();
    const visit = visits.find((v) => v.entries.some((e) => e.id === named));
    visit?.entries.push({
      id: said.id,
      kind: said.kind,
      ...(said.body ? { body: said.body } : {}),
      ...(said.replaces ? { replaces: said.replaces } : { retracts: said.retracts ?? null }),
    });
  }
  return [...records].map(([record, visits]) => ({ record, visits }));
}

const none = (id: string): [string, VisitOfFile[]] => [id, []];
