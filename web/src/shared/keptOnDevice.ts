import { useSyncExternalStore } from "react";

/** A note that outlives a reload: one value under a key of the device, the same in every component that reads it. */
export function keptOnDevice<T>(key: string) {
  const listeners = new Set<() => void>();
  let kept: T | null | undefined;
  const read = (): T | null => {
    if (kept === undefined) {
      try {
        kept = JSON.parse(localStorage.getItem(key) ?? "null") as T | null;
      } catch {
        kept = null; // a broken note loses nothing: every visit is saved by itself
      }
    }
    return kept ?? null;
  };
  const put = (value: T | null) => {
    kept = value;
    if (value) localStorage.setItem(key, JSON.stringify(value));
    else localStorage.removeItem(key);
    for (const tell of listeners) tell();
  };
  const listen = (tell: () => void) => {
    listeners.add(tell);
    return () => listeners.delete(tell);
  };
  return { read, put, use: () => useSyncExternalStore(listen, read, read) };
}
