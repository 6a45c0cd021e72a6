import { useLiveQuery } from "dexie-react-hooks";
import type { Schemas } from "@/api/client";
import { monthsAfter } from "@/shared/dates";
import { newId } from "@/shared/ids";
import { type Member, useMember } from "@/shared/member";
import { saved, store } from "@/shared/outbox";

type Site = Schemas["Site"];

/** A look as the naming contract takes it, with the id it will be recorded under. */
export interface DraftLook {
  id: string;
  character: string;
  states?: string[];
  values?: number[];
  none?: boolean;
  skipped?: boolean;
  /** false: what is asked about makes no sense on this plant */
  applies?: false;
  certainty: "sure" | "likely" | "unsure";
  seen: "plant" | "litter";
  /** the day it was seen, where that was not the day of this visit */
  on?: string;
}

export type Quantity =
  | "dbh_cm"
  | "drc_cm"
  | "buttress_cm"
  | "height_m"
  | "crown_spread_m"
  | "crown_base_m"
  | "transparency_pct"
  | "dieback_pct"
  | "rings_per_cm";

export interface DraftMeasurement {
  id: string;
  quantity: Quantity;
  raw: Record<string, unknown>;
  method: "estimated" | "paced" | "taped" | "instrument";
  /** where on the stem, when not at the site's breast height */
  at_height_m?: number;
  stem_form?: string;
}

export interface DraftDefect {
  id: string;
  defect: string;
  part: string;
  extent_percent?: number;
}

export interface DraftRiskRow {
  part: string;
  target: string;
  failure: string;
  impact: string;
  consequence: string;
  work?: string;
  failure_after?: string;
}

export interface DraftRisk {
  id: string;
  rows: DraftRiskRow[];
  years: number | null;
  level: string;
  base_seen: boolean;
  crown_seen: boolean;
  next_look_months: number | null;
}

export interface DraftName {
  id: string;
  entered: string;
  taxon?: string;
  rank?: string;
  probability?: number;
  reason?: string;
  not_told_from?: string[];
  flora?: string;
  engine?: string;
}

export interface DraftPhoto {
  id: string;
  blob: Blob;
  sha256: string;
  organ: string;
  /** the defect it shows, where it shows one */
  defect?: string | undefined;
}

/** A visit being written. Lives on the device until it is kept, and survives a reload. */
export interface Draft {
  id: string;
  plant: string;
  block: string;
  local_date: string;
  stage: string;
  setting: string;
  origin: string;
  tag: string;
  looks: DraftLook[];
  /** looks of earlier visits that this naming starts from; recorded there, not again here */
  earlier?: DraftLook[];
  name: DraftName | null;
  measurements: DraftMeasurement[];
  condition: string;
  signs: { id: string; sign: string; present: boolean }[];
  note: string;
  photos: DraftPhoto[];
  step: string;
  /** by what it was made sure that this is the stem: its tag, its place in the row */
  confirmed?: string;
  stem_form?: string;
  leafless?: boolean;
  condition_parts?: Record<string, number | "not_seen">;
  /** base visible, flare, crown class, light */
  judged?: Record<string, string>;
  life?: string;
  defects?: DraftDefect[];
  risk?: DraftRisk;
}

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
    id: newId(),
    plant,
    block,
    local_date: date,
    stage,
    setting,
    origin,
    tag: "",
    looks: [],
    name: null,
    measurements: [],
    condition: "",
    signs: [],
    note: "",
    photos: [],
    step: "where",
  };
}

const keyOf = (member: Member, plant: string) => `${member.id} ${plant}`;

/** The draft of a plant and the ways to change it; `undefined` while it is being read, `null` when there is none. */
export function useDraft(plant: string) {
  const member = useMember();
  const key = keyOf(member, plant);
  const draft = useLiveQuery(
    async () => ((await store.drafts.get(key))?.draft as Draft | undefined) ?? null,
    [key],
  );
  const write = (next: Draft) => store.drafts.put({ key, owner: member.id, draft: next });
  const put = (next: Draft) => saved(write(next));
  const change = async (part: Partial<Draft> | ((now: Draft) => Partial<Draft>)) =>
    saved(
      store.transaction("rw", store.drafts, async () => {
        const now = (await store.drafts.get(key))?.draft as Draft | undefined;
        if (now) await write({ ...now, ...(typeof part === "function" ? part(now) : part) });
      }),
    );
  const drop = () => saved(store.drafts.delete(key));
  return { draft, put, change, drop };
}

/** Whether there is anything in it that a visit would record. */
export function saysSomething(draft: Draft): boolean {
  return Boolean(
    draft.tag ||
      draft.looks.length ||
      draft.name ||
      draft.measurements.length ||
      draft.condition ||
      Object.keys(draft.condition_parts ?? {}).length ||
      draft.life ||
      draft.defects?.length ||
      draft.risk?.rows.length ||
      draft.signs.length ||
      draft.note.trim() ||
      draft.photos.length,
  );
}

/** The visit item a draft becomes, by the conventions of its site. */
export function visitOf(draft: Draft, member: Member, site: Site): Record<string, unknown> & { id: string } {
  const at = new Date();
  const entry = (id: string, kind: string, body: Record<string, unknown>) => ({ id, kind, body });
  const entries = [
    ...(draft.tag ? [entry(newId(), "tag", { number: draft.tag })] : []),
    ...draft.looks.map(({ id, ...look }) => entry(id, "look", look)),
    ...(draft.name ? [nameEntry(draft)] : []),
    ...draft.measurements
      .filter((m) => !(draft.leafless && LEAFY.includes(m.quantity)))
      .map(({ id, ...m }) => entry(id, "measurement", measured(m, site))),
    ...conditionEntry(draft),
    ...(draft.life ? [entry(newId(), "life", { state: draft.life })] : []),
    ...(draft.defects ?? []).map(({ id, ...defect }) => entry(id, "defect", { ...defect })),
    ...(draft.risk?.rows.length ? [riskEntry(draft.risk, draft.local_date)] : []),
    ...draft.signs.map(({ id, ...sign }) => entry(id, "sign", sign)),
    ...(draft.note.trim() ? [entry(newId(), "note", { text: draft.note.trim() })] : []),
    ...draft.photos.map((p) =>
      entry(p.id, "photo", {
        sha256: p.sha256,
        bytes: p.blob.size,
        ...(p.defect ? { defect: p.defect } : { organ: p.organ }),
      }),
    ),
  ];
  return {
    id: draft.id,
    plant: draft.plant,
    mode: "field",
    local_date: draft.local_date,
    observed_at: at.toISOString(),
    utc_offset_min: -at.getTimezoneOffset(),
    observer: member.shown_name,
    stage: draft.stage,
    setting: draft.setting,
    origin: draft.origin,
    entries,
  };
}

const LEAFY: Quantity[] = ["transparency_pct", "dieback_pct"]; // not seen out of leaf

function measured(m: Omit<DraftMeasurement, "id">, site: Site) {
  const diameter = ["dbh_cm", "drc_cm", "buttress_cm"].includes(m.quantity);
  return {
    ...m,
    ...(diameter ? { combine: site.several_shoots, least_cm: site.smallest_cm } : {}),
    ...(m.quantity === "dbh_cm" ? { at_height_m: m.at_height_m ?? site.breast_height_m } : {}),
  };
}

/** Condition by parts where parts were graded (the word follows from them), else by the word. */
function conditionEntry(draft: Draft) {
  const graded = Object.keys(draft.condition_parts ?? {}).length > 0;
  if (!graded && !draft.condition) return [];
  const what = graded ? { parts: draft.condition_parts } : { word: draft.condition };
  return [
    { id: newId(), kind: "condition", body: { ...what, leafless: draft.leafless ?? false, ...draft.judged } },
  ];
}

function riskEntry({ id, next_look_months, ...sheet }: DraftRisk, on: string) {
  return {
    id,
    kind: "risk",
    body: { ...sheet, ...(next_look_months ? { next_look: monthsAfter(on, next_look_months) } : {}) },
  };
}

function nameEntry(draft: Draft) {
  const { id, rank, ...name } = draft.name as DraftName;
  return {
    id,
    kind: "determination",
    body: {
      ...name,
      ...(name.taxon ? {} : { name_rank: rank ?? "unknown" }),
      looks: looksWeighed(draft).map((l) => l.id),
    },
  };
}

/** The looks a name rests on: earlier ones of the same stem first, unless looked at anew, then those of this visit. */
export function looksWeighed(draft: Pick<Draft, "looks" | "earlier">): DraftLook[] {
  const anew = new Set(draft.looks.map((l) => l.character));
  return [...(draft.earlier ?? []).filter((l) => !anew.has(l.character)), ...draft.looks];
}

/** The naming case of a draft: the same looks, in the engine's form. */
export function caseOf(
  draft: Pick<Draft, "local_date" | "stage" | "setting" | "origin" | "looks" | "earlier">,
  site: { lat: number; lon: number; elevation_m?: number; areas: string[] } | undefined,
  kinds: Map<string, string>,
) {
  const observations = looksWeighed(draft).map(({ id: _id, states, ...look }) => ({
    ...look,
    ...(states ? (kinds.get(look.character) === "many" ? { states } : { state: states[0] }) : {}),
  }));
  const where = site
    ? {
        lat: site.lat,
        lon: site.lon,
        elevation_m: site.elevation_m ?? 0,
        ...(site.areas.length ? { areas: site.areas } : {}),
      }
    : {};
  return {
    on: draft.local_date,
    ...where,
    setting: draft.setting,
    origin: draft.origin,
    stage: draft.stage,
    observations,
  };
}
