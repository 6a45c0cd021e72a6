import { useSyncExternalStore } from "react";

// The server has forgotten who is signed in: said at once, wherever one is. Everything saved on the device stays.
let ended = false;
const listeners = new Set<() => void>();

export function setSessionEnded(now: boolean): void {
  if (now === ended) return;
  ended = now;
  for (const listener of listeners) listener();
}

const losses = new Set<() => void>();

/** Called when the server says that whoever was signed in is so no more: signed out elsewhere, a device taken off, an access ended. */
export function onSessionLost(listener: () => void): () => void {
  losses.add(listener);
  return () => losses.delete(listener);
}

/** The server has answered 401. */
export function sessionLost(): void {
  setSessionEnded(true);
  for (const listener of losses) listener();
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
