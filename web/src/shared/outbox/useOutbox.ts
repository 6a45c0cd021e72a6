import { useLiveQuery } from "dexie-react-hooks";
import { useMember } from "@/shared/member";
import { saved } from "./device";
import { type DraftLeft, type Photographs, saveOnDevice } from "./saveOnDevice";
import { nudge } from "./sender";
import { type ItemBody, type ItemKind, type OutboxItem, store } from "./store";

/** Puts a thing on the device before anything else; it is sent when online. */
export function useSave() {
  const member = useMember();
  return async <K extends ItemKind>(
    kind: K,
    body: ItemBody<K>,
    photos: Photographs = [],
    left?: DraftLeft,
  ) => {
    await saved(saveOnDevice(member.id, kind, body, photos, left));
    nudge();
  };
}

export interface OutboxCounts {
  kept: number;
  sent: number;
  needsAttention: number;
  /** false until the device's store has been read: nothing is claimed before */
  known: boolean;
}

/** How many things are saved on this device, sent, and in need of a person. */
export function useOutboxCounts(): OutboxCounts {
  const member = useMember();
  return (
    useLiveQuery(async () => {
      const items = await store.items.where({ owner: member.id }).toArray();
      const photos = await store.photos.where({ owner: member.id }).toArray();
      const inState = (state: string) => [...items, ...photos].filter((i) => i.state === state).length;
      return {
        kept: inState("saved") + inState("waiting"),
        sent: inState("sent"),
        needsAttention: inState("needs_attention"),
        known: true,
      };
    }, [member.id]) ?? { kept: 0, sent: 0, needsAttention: 0, known: false }
  );
}

const NONE: OutboxItem[] = [];

/** Every item of one kind that was saved on this device and is there still, sent or not; oldest first. */
export function useSaved(kind: ItemKind): OutboxItem[] {
  const member = useMember();
  return (
    useLiveQuery(
      () =>
        store.items
          .where({ owner: member.id })
          .filter((i) => i.kind === kind)
          .sortBy("order"),
      [member.id, kind],
    ) ?? NONE
  );
}

/** State of one item, for 'saved on this device / sent / needs attention' beside it. */
export function useItem(id: string | null): OutboxItem | undefined {
  return useLiveQuery(() => (id ? store.items.get(id) : undefined), [id]);
}
