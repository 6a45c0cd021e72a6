import { type QueryClient, useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "@/api/client";
import { core } from "@/core";
import { savedCopy } from "@/shared/outbox";
import { completed, type Draft } from "@/shared/records/draft";
import { type EntryIn, entryOf, type Kind } from "@/shared/records/entries";
import type { Row, Site } from "@/shared/records/reads";

export type Checked = Schemas["CheckedEntry"];
const SURE = 0.9; // a name that is less sure says nothing of leaves
const JUDGED: Kind[] = ["measurement", "condition", "defect", "risk", "determination"];

/**
 * What the core says of the visit so far: computed figures and what speaks against them, condition, risk.
 * row: the tree as it is known, for its name where the visit gives none. `of` an entry is undefined until it has been answered; `stale` while an older state of the visit is shown.
 */
export function useVisitCheck(draft: Draft, site: Site | undefined, row?: Row) {
  const named = row?.taxon && (row.name_probability ?? 1) >= SURE ? row.taxon : "";
  const entries = site ? judgedOf(draft, site) : [];
  const taxon = entryOf(draft, "determination")?.body.taxon ?? "";
  const measured = entries.some((e) => e.kind === "measurement");
  const known = useQuery({ ...knownQuery(draft, taxon), enabled: measured });
  const check = useQuery({
    queryKey: [
      "check visit",
      draft.local_date,
      draft.stage,
      entries,
      known.data,
      site?.units,
      site?.high_days,
      named,
    ],
    enabled: (entries.length > 0 || named !== "") && site !== undefined && !(measured && known.isPending),
    retry: false,
    placeholderData: (before) => before,
    queryFn: () => core.checkVisit(asked(draft, site, entries, known.data, named)),
  });
  return {
    of: (entry: { id: string } | undefined): Checked | undefined =>
      check.data?.entries.find((e) => e.id === entry?.id),
    /** what the calendar says of its leaves: in_leaf, out_of_leaf, or nothing */
    leafState: check.data?.leaf_state ?? "",
    stale: check.isPlaceholderData,
    offline: check.error !== null,
  };
}

/** Whether something speaks against one of the entries; not known offline, and not waited for long. */
export async function checkNow(
  draft: Draft,
  site: Site,
  client: QueryClient,
  taken: EntryIn[],
): Promise<boolean> {
  const ids = new Set(taken.filter((e) => e.kind === "measurement").map((e) => e.id));
  if (!ids.size) return false;
  const taxon = entryOf(draft, "determination")?.body.taxon ?? "";
  const check = async () => {
    const known = await client.fetchQuery(knownQuery(draft, taxon)).catch(() => undefined);
    return core.checkVisit(asked(draft, site, judgedOf(draft, site), known)).catch(() => null);
  };
  const answer = await Promise.race([
    check(),
    new Promise<null>((resolve) => setTimeout(() => resolve(null), LONGEST_CHECK_MS)),
  ]);
  return (answer?.entries ?? []).some(
    (e) => ids.has(e.id) && Boolean(e.refused || e.figure?.warning || e.figure?.warnings.length),
  );
}

type Known = Awaited<ReturnType<typeof knownFigures>>;
const LONGEST_CHECK_MS = 2_000;

const judgedOf = (draft: Draft, site: Site) =>
  draft.entries.filter((e) => JUDGED.includes(e.kind)).map((e) => completed(e, draft, site));

const knownQuery = (draft: Draft, taxon: string) => ({
  queryKey: ["known figures", draft.plant, draft.local_date, taxon],
  retry: false,
  queryFn: () => savedCopy(`known figures ${draft.plant}`, () => knownFigures(draft, taxon)),
});

const asked = (
  draft: Draft,
  site: Site | undefined,
  entries: EntryIn[],
  known: Known | undefined,
  named = "",
) => ({
  on: draft.local_date,
  entries,
  stage: draft.stage,
  ...(named ? { taxon: named } : {}),
  ...(known ? { known } : {}),
  ...(site
    ? {
        units: site.units,
        high_days: site.high_days,
        place: { lat: site.lat, lon: site.lon, elevation_m: site.elevation_m ?? null },
      }
    : {}),
});

const knownFigures = async (draft: Draft, taxon: string) =>
  unwrap(
    await api.GET("/api/plants/{plant_id}/known-figures/", {
      params: { path: { plant_id: draft.plant }, query: { on: draft.local_date, taxon } },
    }),
  );
