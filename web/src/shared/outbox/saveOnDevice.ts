import { RECORD_VERSION } from "@/shared/records/entries";
import { draftKey, type ItemBody, type ItemKind, type PhotoItem, store } from "./store";

export type Photographs = Omit<PhotoItem, "owner" | "state">[];

/** What a plant has as a draft once the thing is saved; null: none. */
export interface DraftLeft {
  plant: string;
  draft: object | null;
}

/**
 * The thing, its photographs and what is left of its draft, in one write: a page that is closed in between neither
 * loses a visit nor offers it a second time.
 */
export function saveOnDevice<K extends ItemKind>(
  owner: string,
  kind: K,
  body: ItemBody<K>,
  photos: Photographs = [],
  left?: DraftLeft,
): PromiseLike<void> {
  const now = Date.now();
  return store.transaction("rw", store.items, store.photos, store.drafts, async () => {
    await store.items.put({
      id: body.id,
      owner,
      kind,
      version: RECORD_VERSION,
      body,
      recorded_at: new Date(now).toISOString(),
      order: now,
      state: "saved",
    });
    for (const photo of photos) await store.photos.put({ ...photo, owner, state: "saved", at: now });
    if (!left) return;
    const key = draftKey(owner, left.plant);
    if (left.draft) await store.drafts.put({ key, owner, draft: left.draft });
    else await store.drafts.delete(key);
  });
}
