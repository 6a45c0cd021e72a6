import { useSyncExternalStore } from "react";

// The server has forgotten who is signed in: said at once, wherever one is. Everything saved on the device stays.
let ended = false;
const listeners = new Set<() => void>();

export function setSessionEnded(now: boolean): void {
  if (now === ended) return;
  ended = now;
  for (const listener of listeners) listener();
}

export function useSessionEnded(): boolean {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => ended,
  );
}
