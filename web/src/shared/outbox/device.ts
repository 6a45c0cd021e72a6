import { useSyncExternalStore } from "react";

/** A write to this device that failed. It is said on screen by whoever shows `useDeviceTrouble`; nothing after it runs. */
export class NotSaved extends Error {}

const FULL =
  "This device is full. What you entered last is not saved; what was saved before is still here. Make room (pictures, other apps), then enter it again.";
const BROKEN =
  "This device did not save what you entered last. Reload the page; what was saved before is still here.";
const LEAST_BYTES = 50_000_000;

const NO_COPY =
  "This device is full: pages are no longer saved for use offline. What you enter is not affected by that.";

// what was entered and what was only read fail and recover apart: a page saved for offline mends no lost entry
type What = "entered" | "read";
const trouble: Record<What, string | null> = { entered: null, read: null };
const listeners = new Set<() => void>();

function say(what: What, words: string | null): void {
  if (words === trouble[what]) return;
  trouble[what] = words;
  for (const listener of listeners) listener();
}

/** Waits for a write to the device's store. Where it fails, the reason is said and NotSaved thrown. */
export async function saved<T>(write: PromiseLike<T>, what: What = "entered"): Promise<T> {
  try {
    const result = await write;
    if (what === "entered") say("entered", null);
    say("read", null); // there is room again
    return result;
  } catch (error) {
    say(what, what === "read" ? NO_COPY : isFull(error) ? FULL : BROKEN);
    throw new NotSaved(String(error));
  }
}

function isFull(error: unknown): boolean {
  const names = [(error as Error)?.name, (error as { inner?: Error })?.inner?.name];
  return names.includes("QuotaExceededError") || /quota|disk|full/i.test(String(error));
}

/** Why the last write to the device failed; null once one of its kind has succeeded again. */
export function useDeviceTrouble(): string | null {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => trouble.entered ?? trouble.read,
  );
}

/** A failed write has been said on screen: no second report of it in the console. */
export function hushNotSaved(): void {
  addEventListener(
    "unhandledrejection",
    (event) => event.reason instanceof NotSaved && event.preventDefault(),
  );
}

/** Asks the browser to keep the store; the bytes left where it leaves too little for a round, else null. */
export async function tooLittleRoom(): Promise<number | null> {
  await navigator.storage?.persist?.();
  const { quota, usage } = (await navigator.storage?.estimate?.()) ?? {};
  if (quota === undefined) return null;
  const left = quota - (usage ?? 0);
  return left < LEAST_BYTES ? left : null;
}
