import { useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "@/api/client";
import { core } from "@/core";
import { savedCopy } from "@/shared/outbox";
import { completed, type Draft } from "@/shared/records/draft";
import { entryOf, type Kind } from "@/shared/records/entries";
import type { Site } from "@/shared/records/reads";

export type Checked = Schemas["CheckedEntry"];
const JUDGED: Kind[] = ["measurement", "condition", "risk", "determination"];

/**
 * What the core says of the visit so far: computed figures and what speaks against them, condition, risk.
 * `of` an entry is undefined until it has been answered; `stale` while an older state of the visit is shown.
 */
export function useVisitCheck(draft: Draft, site: Site | undefined) {
  const entries = site
    ? draft.entries.filter((e) => JUDGED.includes(e.kind)).map((e) => completed(e, draft, site))
    : [];
  const taxon = entryOf(draft, "determination")?.body.taxon ?? "";
  const measured = entries.some((e) => e.kind === "measurement");
  const known = useQuery({
    queryKey: ["known figures", draft.plant, draft.local_date, taxon],
    enabled: measured,
    retry: false,
    queryFn: () => savedCopy(`known figures ${draft.plant}`, () => knownFigures(draft, taxon)),
  });
  const check = useQuery({
    queryKey: [
      "check visit",
      draft.local_date,
      draft.stage,
      entries,
      known.data,
      site?.units,
      site?.high_days,
    ],
    enabled: entries.length > 0 && site !== undefined && !(measured && known.isPending),
    retry: false,
    placeholderData: (before) => before,
    queryFn: () =>
      core.checkVisit({
        on: draft.local_date,
        entries,
        stage: draft.stage,
        ...(known.data ? { known: known.data } : {}),
        ...(site ? { units: site.units, high_days: site.high_days } : {}),
      }),
  });
  return {
    of: (entry: { id: string } | undefined): Checked | undefined =>
      check.data?.entries.find((e) => e.id === entry?.id),
    stale: check.isPlaceholderData,
    offline: check.error !== null,
  };
}

const knownFigures = async (draft: Draft, taxon: string) =>
  unwrap(
    await api.GET("/api/plants/{plant_id}/known-figures/", {
      params: { path: { plant_id: draft.plant }, query: { on: draft.local_date, taxon } },
    }),
  );
