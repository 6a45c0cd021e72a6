import type { Case } from "@/core";
import { newId } from "@/shared/ids";
import {
  type BodyOf,
  type EntryIn,
  type EntryOf,
  entriesOf,
  entryOf,
  FILE_NEEDS,
  isInFile,
  type Kind,
  type Measurement,
  measurementOf,
  type Quantity,
  RECORD_VERSION,
  withEntry,
  withoutEntry,
} from "./entries";
import type { Site, VisitIn } from "./reads";

/** An observation as the naming contract takes it: with the id of its entry, and the day where that is another. */
export type Seen = BodyOf<"observation"> & { id: string; on?: string };

/** A visit that is being written. It is on the device until it is saved, and survives a reload. */
export interface Draft {
  /** the record version its entries were made with */
  version: number;
  id: string;
  plant: string;
  block: string;
  local_date: string;
  stage: string;
  setting: string;
  origin: string;
  entries: EntryIn[];
  /** observations of earlier visits that this naming starts from; recorded there, not again here */
  earlier?: Seen[] | undefined;
  /** the files of its photographs, by the id of their entry */
  pictures: { id: string; blob: Blob }[];
  step: string;
  /** by what it was made sure that this is the tree: its tag, its place in the row */
  confirmed?: string;
  /** chosen before there is a reading */
  stem_form?: string;
  /** what stands typed in a field and is no entry yet, by field */
  typed?: Record<string, string>;
}

export type Change = Partial<Draft> | ((now: Draft) => Partial<Draft>);

/** The step of a draft whose name has just been taken: the one after the name, whichever that is on its site. */
export const AFTER_NAME = "after name";

export function emptyDraft(
  plant: string,
  block: string,
  date: string,
  setting: string,
  origin: string,
  stage: string,
): Draft {
  return {
    version: RECORD_VERSION,
    id: newId(),
    plant,
    block,
    local_date: date,
    stage,
    setting,
    origin,
    entries: [],
    pictures: [],
    step: "where",
  };
}

/** Puts one body in the place of the newest of its kind; null takes that one out. */
export function withOne<K extends Kind>(now: Draft, kind: K, body: BodyOf<K> | null): Partial<Draft> {
  const before = entryOf(now, kind);
  if (!body) return { entries: withoutEntry(now.entries, before?.id) };
  return { entries: withEntry(now.entries, { id: before?.id ?? newId(), kind, body } as EntryOf<K>) };
}

/** Puts the measurement of a quantity, in the place of any of the same place on the stem; null takes it out. */
export function withMeasurement(
  now: Draft,
  body: Measurement | null,
  ...instead: Quantity[]
): Partial<Draft> {
  const before = measurementOf(now, ...instead);
  if (!body) return { entries: withoutEntry(now.entries, before?.id) };
  return { entries: withEntry(now.entries, { id: before?.id ?? newId(), kind: "measurement", body }) };
}

/** A photograph of a draft: its entry and its file. */
export interface Photograph {
  entry: EntryOf<"photo">;
  blob: Blob;
}

/** The photographs of a draft whose files are on the device. */
export function photographsOf(draft: Draft): Photograph[] {
  return entriesOf(draft, "photo").flatMap((entry) => {
    const picture = draft.pictures.find((p) => p.id === entry.id);
    return picture ? [{ entry, blob: picture.blob }] : [];
  });
}

/** Whether there is anything in it that a visit would record. */
export function saysSomething(draft: Draft): boolean {
  return finished(draft.entries).length > 0;
}

/** The entries that are worth recording; a sheet that was opened and left empty is not. */
function finished(entries: EntryIn[]): EntryIn[] {
  return entries.filter((e) => {
    if (e.kind === "tag") return e.body.number !== "";
    if (e.kind === "note") return e.body.text.trim() !== "";
    if (e.kind === "risk") return isWhole(e.body);
    if (e.kind in FILE_NEEDS) return isInFile(e);
    if (e.kind === "inspection") return isInspection(e.body);
    if (e.kind !== "condition") return true;
    const { leafless: _leafless, leaf_reason: _reason, ...judged } = e.body;
    return Object.values(judged).some((v) => v && (typeof v !== "object" || Object.keys(v).length > 0));
  });
}

/** Whether an inspection says how much was seen, as its level needs, or why nobody got to the tree. */
export function isInspection({
  level,
  base_visible,
  crown_visible,
  no_access,
}: BodyOf<"inspection">): boolean {
  return level === "limited_visual" || Boolean(level && (no_access || (base_visible && crown_visible)));
}

/** Whether a risk worksheet answers all it must: nothing of it is answered beforehand. */
export function isWhole(sheet: BodyOf<"risk">): boolean {
  return (
    sheet.years > 0 &&
    Boolean(sheet.level && sheet.base_seen && sheet.crown_seen) &&
    Boolean(sheet.next_inspection || sheet.no_next) &&
    sheet.rows.length > 0 &&
    sheet.rows.every((r) => Boolean(r.part && r.target && r.failure && r.impact && r.consequence))
  );
}

/** A worksheet or an inspection that was begun: not recorded with the visit, it stays on the device as a draft. */
export function halfFilled(draft: Draft): (EntryOf<"risk"> | EntryOf<"inspection">)[] {
  const sheet = entryOf(draft, "risk");
  const inspection = entryOf(draft, "inspection");
  return [
    ...(sheet && !isWhole(sheet.body) ? [sheet] : []),
    ...(inspection && !isInspection(inspection.body) ? [inspection] : []),
  ];
}

/** A visit in the field, made now by this device's clock. */
export function visitNow(plant: string, local_date: string, entries: EntryIn[], id = newId()): VisitIn {
  const at = new Date();
  return {
    id,
    plant,
    mode: "field",
    local_date,
    observed_at: at.toISOString(),
    utc_offset_min: -at.getTimezoneOffset(),
    entries,
  };
}

/** The visit item a draft becomes, by the conventions of its site. */
export function visitOf(draft: Draft, site: Site): VisitIn {
  const leafless = entryOf(draft, "condition")?.body.leafless ?? false;
  const entries = finished(draft.entries)
    .filter((e) => !(leafless && e.kind === "measurement" && IN_LEAF.includes(e.body.quantity)))
    .filter((e) => e.kind !== "photo" || draft.pictures.some((p) => p.id === e.id))
    .map((e) => completed(e, draft, site));
  return {
    ...visitNow(draft.plant, draft.local_date, entries, draft.id),
    stage: draft.stage as NonNullable<VisitIn["stage"]>,
    setting: draft.setting as NonNullable<VisitIn["setting"]>,
    origin: draft.origin as NonNullable<VisitIn["origin"]>,
  };
}

const IN_LEAF: Quantity[] = ["transparency_pct", "dieback_pct"]; // not seen out of leaf
const OF_STEMS: Quantity[] = ["dbh_cm", "drc_cm", "buttress_cm"];

/** An entry with what follows from the site and the rest of the visit. */
export function completed(entry: EntryIn, draft: Draft, site: Site): EntryIn {
  if (entry.kind === "measurement" && OF_STEMS.includes(entry.body.quantity)) {
    const dbh = entry.body.quantity === "dbh_cm";
    return {
      ...entry,
      body: {
        ...entry.body,
        combine: site.several_stems,
        least_cm: site.smallest_cm,
        ...(dbh ? { at_height_m: entry.body.at_height_m ?? site.breast_height_m } : {}),
      },
    };
  }
  // what was seen of the base counts also where the whole was not graded
  if (entry.kind === "condition" && !entry.body.word && !Object.keys(entry.body.parts ?? {}).length)
    return { ...entry, body: { ...entry.body, word: "not_seen" } };
  if (entry.kind === "note") return { ...entry, body: { text: entry.body.text.trim() } };
  if (entry.kind === "determination")
    return { ...entry, body: { ...entry.body, observations: observationsWeighed(draft).map((o) => o.id) } };
  return entry;
}

/** The observations a name rests on: earlier ones of the same plant first, unless made anew, then those of this visit. */
export function observationsWeighed(draft: Pick<Draft, "entries" | "earlier">): Seen[] {
  const here = entriesOf(draft, "observation").map((e) => ({ ...e.body, id: e.id }));
  const anew = new Set(here.map((o) => o.character));
  return [...(draft.earlier ?? []).filter((o) => !anew.has(o.character)), ...here];
}

/** The naming case of a draft: its observations as they are recorded, where and on what it stands. */
export function caseOf(
  draft: Pick<Draft, "local_date" | "stage" | "setting" | "origin" | "entries" | "earlier">,
  site:
    | { lat: number; lon: number; elevation_m?: number; areas: string[]; hardiness_zone?: string }
    | undefined,
): Case {
  const { lat, lon, elevation_m = 0, areas = [], hardiness_zone: zone } = site ?? {};
  return {
    on: draft.local_date,
    ...(lat === undefined || lon === undefined ? {} : { lat, lon, elevation_m }),
    ...(areas.length ? { areas } : {}),
    ...(zone ? { zone } : {}),
    setting: draft.setting,
    origin: draft.origin,
    stage: draft.stage,
    observations: observationsWeighed(draft),
  };
}
