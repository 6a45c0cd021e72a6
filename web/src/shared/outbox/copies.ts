import { Offline } from "@/api/client";
import { deviceOwner } from "@/shared/owner";
import { onSessionLost } from "@/shared/session";
import { saved } from "./device";
import { store } from "./store";

// Who is signed in is known before whose the device is.
const SESSION = "session";

/** From the server, and saved for the member who read it; offline the copy that is saved. */
export async function savedCopy<T>(key: string, read: () => Promise<T>): Promise<T> {
  const at = keyOf(key);
  try {
    const value = await read();
    const row = { key: at, owner: key === SESSION ? "" : ownerId(), value, at: Date.now() };
    // who is not the device's owner any more leaves nothing on it
    if (at === keyOf(key)) await saved(store.copies.put(row), "read").catch(() => undefined); // said on screen; reading goes on
    return value;
  } catch (error) {
    const copy = error instanceof Offline ? await store.copies.get(at) : undefined;
    if (copy) return copy.value as T;
    throw error;
  }
}

/** What is saved under a key for the member, without asking the server. */
export async function copyOf<T>(key: string): Promise<T | undefined> {
  return (await store.copies.get(keyOf(key)))?.value as T | undefined;
}

const ownerId = () => {
  const owner = deviceOwner();
  return owner ? `${owner.organisation} ${owner.member}` : "";
};
const keyOf = (key: string) => (key === SESSION ? SESSION : `${ownerId()} ${key}`);

/** Takes every copy off the device. What was entered and is not sent stays, for its author. */
export async function forgetCopies(): Promise<void> {
  await saved(
    store.transaction("rw", store.copies, store.items, async () => {
      await store.copies.clear();
      await store.items.filter((item) => item.state === "sent").delete(); // the server has them
    }),
  );
}

/** Takes off the device what others have read on it: at the first word of another member. */
export async function forgetOthers(): Promise<void> {
  const [own, member] = [ownerId(), deviceOwner()?.member];
  await saved(
    store.transaction("rw", store.copies, store.items, async () => {
      await store.copies.filter((copy) => copy.owner !== "" && copy.owner !== own).delete();
      await store.items.filter((item) => item.state === "sent" && item.owner !== member).delete();
    }),
  );
}

onSessionLost(() => void forgetCopies());
