import { useLiveQuery } from "dexie-react-hooks";
import { useMember } from "@/shared/member";
import { draftKey, saved, store } from "@/shared/outbox";
import type { Change, Draft } from "./draft";
import { RECORD_VERSION } from "./entries";
import { useUpgraded } from "./upgrade";

/** A draft of another version of the app, and why it cannot be opened yet. */
export interface Older {
  error: Error;
  draft: Draft;
}

/** The draft of a member for a plant as it is on the device now. */
export const storedDraft = async (member: string, plant: string): Promise<Draft | null> =>
  ((await store.drafts.get(draftKey(member, plant)))?.draft as Draft | undefined) ?? null;

/** The draft of a plant and the ways to change it; `undefined` while it is being read, `null` when there is none. */
export function useDraft(plant: string) {
  const member = useMember();
  const key = draftKey(member.id, plant);
  const stored = useLiveQuery(() => storedDraft(member.id, plant), [key]);
  const write = (next: Draft) => store.drafts.put({ key, owner: member.id, draft: next });
  const put = (next: Draft) => saved(write(next));
  const change = async (part: Change) =>
    saved(
      store.transaction("rw", store.drafts, async () => {
        const now = await storedDraft(member.id, plant);
        if (now) await write({ ...now, ...(typeof part === "function" ? part(now) : part) });
      }),
    );
  const drop = () => saved(store.drafts.delete(key));
  // one that another version of the app made is upgraded by the server before anything reads it
  const other = stored && stored.version !== RECORD_VERSION ? stored : null;
  const error = useUpgraded(other, put);
  const older: Older | null = error && other ? { error, draft: other } : null;
  return { draft: other ? undefined : stored, older, put, change, drop };
}
