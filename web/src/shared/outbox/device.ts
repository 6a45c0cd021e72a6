import { useSyncExternalStore } from "react";

/** A write to this device that failed. It is said on screen by whoever shows `useDeviceTrouble`; nothing after it runs. */
export class NotSaved extends Error {}

const FULL =
  "This device is full. What you entered last is not saved; what was saved before is still here. Make room (pictures, other apps), then enter it again.";
const BROKEN =
  "This device did not save what you entered last. Reload the page; what was saved before is still here.";
const LEAST_BYTES = 50_000_000;

let trouble: string | null = null;
const listeners = new Set<() => void>();

function say(words: string | null): void {
  if (words === trouble) return;
  trouble = words;
  for (const listener of listeners) listener();
}

/** Waits for a write to the device's store. Where it fails, the reason is said and NotSaved thrown. */
export async function saved<T>(write: PromiseLike<T>): Promise<T> {
  try {
    const result = await write;
    say(null);
    return result;
  } catch (error) {
    say(isFull(error) ? FULL : BROKEN);
    throw new NotSaved(String(error));
  }
}

function isFull(error: unknown): boolean {
  const names = [(error as Error)?.name, (error as { inner?: Error })?.inner?.name];
  return names.includes("QuotaExceededError") || /quota|disk|full/i.test(String(error));
}

/** Why the last write to the device failed; null once one has succeeded again. */
export function useDeviceTrouble(): string | null {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => trouble,
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
