import type { Schemas } from "@/api/client";
import type { Draft } from "@/shared/records/draft";
import { type BodyOf, entriesOf, entryOf } from "@/shared/records/entries";
import type { Row, Site } from "@/shared/records/reads";

export type HealthCase = Schemas["HealthCaseIn"];
export type HealthAnswer = Schemas["HealthAnswer"];
type Seen = HealthCase["signs"][number];

const KNOWN_TO_THE_CREW = 0.97; // a name somebody gave without a probability; people err
const FEWEST_NEIGHBOURS = 3;

/** A recorded sign as a case has it. */
export function signOfCase(id: string, body: BodyOf<"sign">): Seen {
  const extent = body.extent_percent ?? (body.extent || undefined);
  return {
    id,
    sign: body.sign,
    ...(body.present === false ? { none: true } : {}),
    ...(extent !== undefined && extent !== null ? { extent } : {}),
    ...(body.where?.length ? { where: body.where } : {}),
    ...(body.side ? { side: body.side } : {}),
    ...(body.first_seen ? { since: body.first_seen } : {}),
    ...(body.size_mm ? { size_mm: body.size_mm } : {}),
    ...(body.scale_photo ? { scale_photo: true } : {}),
    ...(body.wipes_off === null || body.wipes_off === undefined ? {} : { wipes_off: body.wipes_off }),
    ...(body.certainty ? { certainty: body.certainty } : {}),
  };
}

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
  const named = entryOf(draft, "determination")?.body;
  const taxon = named?.taxon || row?.taxon || "";
  if (!taxon || !site) return undefined;
  const signs = entriesOf(draft, "sign").map((e) => signOfCase(e.id, e.body));
  const present = signs.filter((s) => !s.none).map((s) => s.sign);
  const neighbours = neighboursOf(rows, draft.plant, taxon, present);
  const condition = entryOf(draft, "condition")?.body;
  return {
    on: draft.local_date,
    lat: site.lat,
    lon: site.lon,
    elevation_m: site.elevation_m,
    areas: site.areas,
    ...(draft.stage ? { stage: draft.stage } : {}),
    ...(draft.setting ? { setting: draft.setting } : {}),
    host: [{ taxon, probability: named?.probability ?? row?.name_probability ?? KNOWN_TO_THE_CREW }],
    signs,
    ...(neighbours ? { neighbours } : {}),
    ...(condition?.leafless ? { in_leaf: false } : {}),
  };
}
