import Dexie, { type EntityTable } from "dexie";
import { Offline } from "@/api/client";
import { saved } from "./device";

export type ItemState = "kept" | "waiting" | "sent" | "needs_you";
export type ItemKind = "plant" | "visit" | "correction" | "clock";

/** One thing kept on the device until the server has it. */
export interface OutboxItem {
  id: string;
  /** member the item belongs to: another member's session never sends it */
  owner: string;
  kind: ItemKind;
  body: Record<string, unknown> & { id: string };
  recorded_at: string;
  order: number;
  state: ItemState;
  message?: string | undefined;
  /** how often the server failed on it alone */
  failures?: number;
}

/** A photograph, kept until the server has echoed its hash. */
export interface PhotoItem {
  id: string;
  owner: string;
  blob: Blob;
  sha256: string;
  state: "kept" | "sent" | "needs_you";
  message?: string | undefined;
  failures?: number;
  at?: number;
}

/** What was read from the server, for offline. */
interface KeptCopy {
  key: string;
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
  copies: EntityTable<KeptCopy, "key">;
  drafts: EntityTable<DraftRow, "key">;
};
store.version(1).stores({
  items: "id, owner, [owner+state]",
  photos: "id, owner, [owner+state]",
  copies: "key",
  drafts: "key, owner",
});
// what was read from a server of the first version has other names in it; what was written here has not
store.version(2).upgrade((change) => change.table("copies").clear());

/** From the server, and kept; offline the kept copy. */
export async function keptCopy<T>(key: string, read: () => Promise<T>): Promise<T> {
  try {
    const value = await read();
    await saved(store.copies.put({ key, value, at: Date.now() }), "read").catch(() => undefined); // said on screen; reading goes on
    return value;
  } catch (error) {
    const copy = error instanceof Offline ? await store.copies.get(key) : undefined;
    if (copy) return copy.value as T;
    throw error;
  }
}
