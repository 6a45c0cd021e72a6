import type { Schemas } from "@/api/client";

/** The record version of this app: stamped on every draft and outbox item when it is saved. */
export const RECORD_VERSION = 7;

export type EntryIn = Schemas["EntryIn"];
export type Kind = EntryIn["kind"];
export type EntryOf<K extends Kind> = Extract<EntryIn, { kind: K }>;
export type BodyOf<K extends Kind> = EntryOf<K>["body"];
export type Measurement = BodyOf<"measurement">;
export type Quantity = Measurement["quantity"];
export type Readings = Measurement["raw"];

/** Kinds of a tree's file, with what each cannot do without. */
export const FILE_NEEDS = {
  status: ["owner"],
  constraint: ["constraint"],
  place: ["surface"],
  planting: ["planted_on"],
  habitat: ["feature"],
  climber: ["climber"],
  headroom: ["over", "clear_m"],
  works: ["works", "distance_m"],
  hardware: ["hardware"],
  photo_point: ["name"],
  enquiry: ["about"],
  incident: ["incident"],
  sample: ["number", "part"],
} as const satisfies Partial<Record<Kind, readonly string[]>>;
export type FileKind = keyof typeof FILE_NEEDS;
export const FILE_KINDS = Object.keys(FILE_NEEDS) as FileKind[];

/** What an entry of a tree's file cannot do without and does not say yet; a nought is said. */
export function missingIn(kind: FileKind, body: Record<string, unknown>): string[] {
  return FILE_NEEDS[kind].filter((field) => body[field] !== 0 && !body[field]);
}

/** Whether an entry of a tree's file says what it cannot do without; false for other kinds. */
export const isInFile = (e: EntryIn): boolean =>
  e.kind in FILE_NEEDS && !missingIn(e.kind as FileKind, e.body as Record<string, unknown>).length;

type Body = Record<string, unknown>;

interface Holder {
  entries: EntryIn[];
}

/** The entries of a kind, in the order in which they were made. */
export function entriesOf<K extends Kind>(holder: Holder, kind: K): EntryOf<K>[] {
  return holder.entries.filter((e): e is EntryOf<K> => e.kind === kind);
}

/** The newest entry of a kind. */
export function entryOf<K extends Kind>(holder: Holder, kind: K): EntryOf<K> | undefined {
  return entriesOf(holder, kind).at(-1);
}

/** The measurement of a quantity. */
export function measurementOf(holder: Holder, ...quantities: Quantity[]): EntryOf<"measurement"> | undefined {
  return entriesOf(holder, "measurement").find((m) => quantities.includes(m.body.quantity));
}

/** The entries with one put in the place of that with the same id, or after all others. */
export function withEntry(entries: EntryIn[], entry: EntryIn): EntryIn[] {
  const at = entries.findIndex((e) => e.id === entry.id);
  return at < 0 ? [...entries, entry] : entries.with(at, entry);
}

/**
 * The stored entries with one as a form changed it against how it was shown. A form may be a moment behind what is
 * stored: what another change has put there since stays.
 */
export function withEdited(stored: EntryIn[], shown: EntryIn[], entry: EntryIn): EntryIn[] {
  const bodyIn = (entries: EntryIn[]) => entries.find((e) => e.id === entry.id)?.body as Body | undefined;
  const [now, before, next] = [bodyIn(stored), bodyIn(shown), entry.body as unknown as Body];
  if (!now || !before) return withEntry(stored, entry);
  const body = { ...now };
  for (const key of new Set([...Object.keys(before), ...Object.keys(next)]))
    if (before[key] !== next[key]) {
      if (key in next) body[key] = next[key];
      else delete body[key];
    }
  return withEntry(stored, { ...entry, body } as unknown as EntryIn);
}

/** The entries without one. */
export function withoutEntry(entries: EntryIn[], id: string | undefined): EntryIn[] {
  return entries.filter((e) => e.id !== id);
}
