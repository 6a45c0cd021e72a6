// The core on this device: whether it is there, and what it answers.
import { Refused } from "@/api/client";
import type { FromWorker, ToWorker } from "./messages";
import { forgetFlora } from "./store";

export type DeviceCore = "off" | "starting" | "ready" | "unable" | "failed";

const ANSWER_LIMIT_MS = 20_000; // a core that is silent so long is given up
const LEAST_MEMORY_GB = 2;
const MOST_HEAP = 400_000_000; // bytes; a heap never shrinks, so that a core past it starts afresh

let state: DeviceCore = "off";
let worker: Worker | null = null;
let asked = 0;
type Answered = Extract<FromWorker, { id: number }>;
const waiting = new Map<number, (message: Answered | null) => void>();
const listeners = new Set<() => void>();

function become(next: DeviceCore) {
  state = next;
  for (const listener of listeners) listener();
}

export const deviceCore = () => state;
export const onDeviceCore = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

/** Whether the device can run the core at all. */
export const isAble = (device: { deviceMemory?: number } = navigator as { deviceMemory?: number }) =>
  typeof WebAssembly === "object" &&
  typeof Worker === "function" &&
  (device.deviceMemory ?? LEAST_MEMORY_GB) >= LEAST_MEMORY_GB;

const newWorker = () => new Worker(new URL("./worker.ts", import.meta.url), { type: "module" });

/** Says that the core will be started: offline, whoever asks waits for it. */
export function expectCore(): void {
  if (!worker) become(isAble() ? "starting" : "unable");
}

/** Brings the core onto the device and starts it; does nothing where it runs already or cannot run. */
export function startCore(make: () => Worker = newWorker): void {
  expectCore();
  if (worker || state === "unable") return;
  const own = make();
  worker = own;
  own.addEventListener("message", ({ data }: MessageEvent<FromWorker>) => {
    if (worker !== own) return;
    if (!("state" in data)) waiting.get(data.id)?.(data);
    else if (data.state === "ready") become("ready");
    else stopCore("failed");
  });
  own.addEventListener("error", () => {
    if (worker === own) stopCore("failed");
  });
  own.postMessage({ start: true } satisfies ToWorker);
}

/** Whether the core runs, once that is known. */
export function whetherReady(): Promise<boolean> {
  return new Promise((settle) => {
    const look = () => {
      if (state === "starting") return;
      stopListening();
      settle(state === "ready");
    };
    const stopListening = onDeviceCore(look);
    look();
  });
}

/** Ends the core; whoever waits for an answer asks the server. */
export function stopCore(as: DeviceCore = "off"): void {
  worker?.terminate();
  worker = null;
  for (const settle of [...waiting.values()]) settle(null);
  become(as);
}

/** Ends the core and takes the installation's flora off the device. */
export async function leaveCore(): Promise<void> {
  stopCore();
  if ("caches" in globalThis) await forgetFlora();
}

/** The answer of the core on this device; undefined where it cannot tell, so that the server is asked. Throws Refused. */
export async function askDevice<T>(operation: string, given: unknown): Promise<T | undefined> {
  const own = worker;
  if (!own || state !== "ready") return undefined;
  const id = ++asked;
  const message = await new Promise<Answered | null>((settle) => {
    const limit = setTimeout(() => {
      if (worker === own) stopCore("failed");
      settle(null);
    }, ANSWER_LIMIT_MS);
    waiting.set(id, (told) => {
      clearTimeout(limit);
      waiting.delete(id);
      settle(told);
    });
    own.postMessage({ id, operation, given: JSON.stringify(given) } satisfies ToWorker);
  });
  if (!message || !("answer" in message)) return undefined;
  if (message.heap > MOST_HEAP && waiting.size === 0 && worker === own) {
    stopCore();
    startCore();
  }
  const told = JSON.parse(message.answer) as { answer: T } | { refused: Refusal };
  if ("answer" in told) return told.answer;
  throw new Refused(400, told.refused.code, told.refused.message, told.refused.field);
}

interface Refusal {
  code: string;
  message: string;
  field: string;
}
