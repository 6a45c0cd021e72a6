import type { Schemas } from "@/api/client";
import type { Draft } from "@/shared/records/draft";
import { entriesOf, entryOf } from "@/shared/records/entries";
import type { Row, Site } from "@/shared/records/reads";

export type HealthCase = Schemas["HealthCaseIn"];
export type HealthAnswer = Schemas["HealthAnswer"];

const FEWEST_NEIGHBOURS = 3;
const KINDS = ["determination", "sign", "condition"]; // of which a diagnosis takes account

const genusOf = (taxon: string) => taxon.split("-")[0] ?? "";

/** Plants of the block: of the same genus, how many of them have one of these signs, and of other genera. */
export function neighboursOf(
  rows: Row[],
  plant: string,
  taxon: string,
  signs: string[],
): Schemas["NeighboursOfCase"] | undefined {
  if (!taxon || !signs.length) return undefined;
  const others = rows.filter((r) => r.id !== plant && r.form === "tree" && r.taxon);
  const alike = others.filter((r) => genusOf(r.taxon) === genusOf(taxon));
  const has = (r: Row) => r.signs.some((s) => signs.includes(s));
  if (alike.length < FEWEST_NEIGHBOURS) return undefined;
  return {
    same_host: alike.length,
    same_host_affected: alike.filter(has).length,
    others_affected: others.filter((r) => genusOf(r.taxon) !== genusOf(taxon)).filter(has).length,
  };
}

/** The case of a visit that is being written; undefined while the tree has no name or its site is not known. */
export function caseOf(
  draft: Draft,
  row: Row | undefined,
  site: Site | undefined,
  rows: Row[],
): HealthCase | undefined {
  const taxon = entryOf(draft, "determination")?.body.taxon || row?.taxon || "";
  if (!taxon || !site) return undefined;
  const present = entriesOf(draft, "sign").filter((s) => s.body.present !== false);
  const neighbours = neighboursOf(
    rows,
    draft.plant,
    taxon,
    present.map((s) => s.body.sign),
  );
  const probability = row?.name_probability;
  return {
    on: draft.local_date,
    lat: site.lat,
    lon: site.lon,
    elevation_m: site.elevation_m,
    areas: site.areas,
    ...(draft.stage ? { stage: draft.stage } : {}),
    ...(draft.setting ? { setting: draft.setting } : {}),
    host: [{ taxon, ...(probability ? { probability } : {}) }],
    entries: draft.entries.filter((e) => KINDS.includes(e.kind)),
    ...(neighbours ? { neighbours } : {}),
  };
}
