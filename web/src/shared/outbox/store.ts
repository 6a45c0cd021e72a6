import Dexie, { type EntityTable } from "dexie";
import type { Schemas } from "@/api/client";

export type ItemState = "saved" | "waiting" | "sent" | "needs_attention";
export type ItemKind = "plant" | "visit" | "correction" | "clock";

/** What the server takes: a plant, a visit with its entries, a correction, or that a doubted date is right. */
export type Sent = Schemas["OutboxItemIn"];
export type ItemBody<K extends ItemKind = ItemKind> = Extract<Sent, { kind: K }>["body"];

/** One thing saved on the device until the server has it. */
export interface OutboxItem {
  id: string;
  /** member the item belongs to: another member's session never sends it */
  owner: string;
  kind: ItemKind;
  /** the record version it was made with, which is not always that of the app that sends it */
  version: number;
  body: ItemBody;
  recorded_at: string;
  order: number;
  /** by this device's clock, when the server had it */
  sent_at?: number;
  state: ItemState;
  message?: string | undefined;
  /** how often the server failed on it alone */
  failures?: number;
}

/** A photograph, saved until the server has echoed its hash. */
export interface PhotoItem {
  id: string;
  owner: string;
  blob: Blob;
  sha256: string;
  state: "saved" | "sent" | "needs_attention";
  message?: string | undefined;
  failures?: number;
  at?: number;
}

/** What was read from the server, for offline, by a member of an organisation. */
interface SavedCopy {
  key: string;
  owner: string;
  value: unknown;
  at: number;
}

/** A visit that is being written, by plant: survives a reload. */
interface DraftRow {
  key: string;
  owner: string;
  draft: unknown;
}

export const store = new Dexie("jubark") as Dexie & {
  items: EntityTable<OutboxItem, "id">;
  photos: EntityTable<PhotoItem, "id">;
  copies: EntityTable<SavedCopy, "key">;
  drafts: EntityTable<DraftRow, "key">;
};
store.version(1).stores({
  items: "id, owner, [owner+state]",
  photos: "id, owner, [owner+state]",
  copies: "key",
  drafts: "key, owner",
});
store.version(2).upgrade((change) => change.table("copies").clear());
// what was entered stays as it was made, stamped with its version; what was read from an older server is read anew
store.version(3).upgrade(async (change) => {
  await change.table("copies").clear();
  const states: Record<string, string> = { kept: "saved", needs_you: "needs_attention" };
  for (const name of ["items", "photos"])
    await change
      .table(name)
      .toCollection()
      .modify((row) => {
        row.state = states[row.state] ?? row.state;
        if (name === "items") row.version ??= 1;
      });
});

// what was read before the units came with the vocabulary is read anew
store.version(4).upgrade((change) => change.table("copies").clear());

// what was read by nobody knows whom is read anew
store.version(5).upgrade((change) => change.table("copies").clear());

/** Under which a member's draft of a plant is kept. */
export const draftKey = (owner: string, plant: string) => `${owner} ${plant}`;
