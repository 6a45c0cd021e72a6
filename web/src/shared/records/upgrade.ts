import { useEffect, useState } from "react";
import { core } from "@/core";
import type { Draft } from "./draft";
import { RECORD_VERSION } from "./entries";

interface OldPhoto {
  id: string;
  blob?: Blob;
}

/**
 * Has a draft of another version of the app upgraded, and writes it back.
 * Returns why it cannot be opened yet: offline it stays untouched on the device.
 */
export function useUpgraded(other: Draft | null, put: (draft: Draft) => Promise<unknown>): Error | null {
  const [wrong, setWrong] = useState<Error | null>(null);
  const id = other?.id;
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked once for each draft, and again when online
  useEffect(() => {
    if (!other) return setWrong(null);
    const ask = () =>
      upgraded(other)
        .then(put)
        .then(() => setWrong(null))
        .catch((error: Error) => setWrong(error));
    void ask();
    addEventListener("online", ask);
    return () => removeEventListener("online", ask);
  }, [id]);
  return wrong;
}

/** The draft at this app's record version. Its pictures never leave the device. */
async function upgraded(other: Draft): Promise<Draft> {
  const old = other as unknown as { version?: number; photos?: OldPhoto[]; pictures?: Draft["pictures"] };
  const photos = (old.photos ?? []).map(({ blob, ...photo }) => ({ ...photo, bytes: blob?.size ?? 0 }));
  const { pictures: _pictures, ...record } = { ...other, photos };
  const answer = await core.upgrade({ thing: "draft", version: old.version ?? 1, record });
  const pictures = old.pictures ?? (old.photos ?? []).flatMap(({ id, blob }) => (blob ? [{ id, blob }] : []));
  return { ...(answer.record as unknown as Draft), version: RECORD_VERSION, pictures };
}
