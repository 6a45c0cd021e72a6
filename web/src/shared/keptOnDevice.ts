import { useSyncExternalStore } from "react";
import { deviceOwner, onDeviceOwner } from "./owner";

interface Note<T> {
  owner: string;
  value: T;
}

const forgetful = new Set<() => void>();

/** Takes every note off the device. */
export function forgetNotes(): void {
  for (const forget of forgetful) forget();
}

/**
 * A note of a member that outlives a reload: one value under a key of the device, the same in every component that
 * reads it. Another member finds none.
 */
export function keptOnDevice<T>(key: string) {
  const listeners = new Set<() => void>();
  let kept: T | null | undefined;
  const owner = () => deviceOwner()?.member ?? "";
  const read = (): T | null => {
    if (kept === undefined) {
      try {
        const note = JSON.parse(localStorage.getItem(key) ?? "null") as Note<T> | T | null;
        // one that an earlier version wrote names nobody: it is of who was signed in then, and still is
        const named = note !== null && typeof note === "object" && "owner" in note && "value" in note;
        kept = named ? (note.owner === owner() ? note.value : null) : (note as T | null);
      } catch {
        kept = null; // a broken note loses nothing: every visit is saved by itself
      }
    }
    return kept ?? null;
  };
  const say = () => {
    for (const tell of listeners) tell();
  };
  const put = (value: T | null) => {
    kept = value;
    if (value) localStorage.setItem(key, JSON.stringify({ owner: owner(), value } satisfies Note<T>));
    else localStorage.removeItem(key);
    say();
  };
  const listen = (tell: () => void) => {
    listeners.add(tell);
    return () => listeners.delete(tell);
  };
  forgetful.add(() => put(null));
  onDeviceOwner(() => {
    kept = undefined;
  });
  return { read, put, use: () => useSyncExternalStore(listen, read, read) };
}
