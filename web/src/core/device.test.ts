import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Refused } from "@/api/client";
import {
  askDevice,
  deviceCore,
  expectCore,
  isAble,
  onDeviceCore,
  startCore,
  stopCore,
  whetherReady,
} from "./device";
import type { FromWorker, ToWorker } from "./messages";

/** A worker that answers what the test tells it to. */
class Fake extends EventTarget {
  asked: { id: number; operation: string; given: string }[] = [];
  ended = false;
  postMessage(message: ToWorker) {
    if ("id" in message) this.asked.push(message);
  }
  terminate() {
    this.ended = true;
  }
  say(data: FromWorker) {
    this.dispatchEvent(new MessageEvent("message", { data }));
  }
}
const fakes: Fake[] = [];
const start = () => {
  startCore(() => {
    const fake = new Fake();
    fakes.push(fake);
    return fake as unknown as Worker;
  });
  return fakes.at(-1) as Fake;
};

beforeEach(() => {
  vi.stubGlobal("Worker", class {});
  vi.stubGlobal("navigator", {});
  vi.useFakeTimers();
});
afterEach(() => {
  stopCore();
  fakes.length = 0;
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe("the core on this device", () => {
  it("answers nothing until it is ready, so that the server is asked", async () => {
    expect(await askDevice("rank", {})).toBeUndefined();
    start();
    expect(deviceCore()).toBe("starting");
    expect(await askDevice("rank", {})).toBeUndefined();
  });

  it("answers by id, whatever the order", async () => {
    const worker = start();
    worker.say({ state: "ready", flora: "f" });
    const one = askDevice<string>("rank", { n: 1 });
    const two = askDevice<string>("next", { n: 2 });
    const [first, second] = worker.asked;
    expect([first?.operation, first?.given, second?.operation]).toEqual(["rank", '{"n":1}', "next"]);
    worker.say({ id: second?.id ?? 0, answer: '{"answer":"b"}', heap: 1 });
    worker.say({ id: first?.id ?? 0, answer: '{"answer":"a"}', heap: 1 });
    expect(await Promise.all([one, two])).toEqual(["a", "b"]);
  });

  it("throws a refusal as the server's is thrown", async () => {
    const worker = start();
    worker.say({ state: "ready", flora: "f" });
    const asked = askDevice("rank", {});
    const refused = { code: "bad_input", message: "on: nothing is not allowed", field: "on" };
    worker.say({ id: worker.asked[0]?.id ?? 0, answer: JSON.stringify({ refused }), heap: 1 });
    const error = await asked.catch((e: unknown) => e);
    expect(error).toBeInstanceOf(Refused);
    expect(error).toMatchObject({ status: 400, code: "bad_input", field: "on", message: refused.message });
  });

  it("leaves to the server what breaks it, and goes on", async () => {
    const worker = start();
    worker.say({ state: "ready", flora: "f" });
    const asked = askDevice("rank", {});
    worker.say({ id: worker.asked[0]?.id ?? 0, broken: "MemoryError" });
    expect(await asked).toBeUndefined();
    expect(deviceCore()).toBe("ready");
  });

  it("is given up when it is silent too long, and whoever waits asks the server", async () => {
    const worker = start();
    worker.say({ state: "ready", flora: "f" });
    const [one, two] = [askDevice("rank", {}), askDevice("next", {})];
    await vi.advanceTimersByTimeAsync(20_000);
    expect(await Promise.all([one, two])).toEqual([undefined, undefined]);
    expect([deviceCore(), worker.ended]).toEqual(["failed", true]);
  });

  it("starts afresh when its heap has grown past what a device can spare, after the answer", async () => {
    vi.stubGlobal(
      "Worker",
      class {
        constructor() {
          const fake = new Fake();
          fakes.push(fake);
          // biome-ignore lint/correctness/noConstructorReturn: the test holds what was made
          return fake;
        }
      },
    );
    const worker = start();
    worker.say({ state: "ready", flora: "f" });
    const asked = askDevice("rank", {});
    worker.say({ id: worker.asked[0]?.id ?? 0, answer: '{"answer":"a"}', heap: 500_000_000 });
    expect(await asked).toBe("a");
    expect([worker.ended, deviceCore(), fakes.length]).toEqual([true, "starting", 2]);
  });

  it("can be started again after it failed, and an ended one is not heard any more", () => {
    const first = start();
    first.say({ state: "failed", why: "no network" });
    expect(deviceCore()).toBe("failed");
    const second = start();
    first.say({ state: "ready", flora: "old" });
    expect(deviceCore()).toBe("starting");
    second.say({ state: "ready", flora: "new" });
    expect(deviceCore()).toBe("ready");
    start();
    expect(fakes).toHaveLength(2); // one that runs is left alone
  });

  it("is waited for while it starts, and not when it cannot come", async () => {
    expectCore();
    const coming = whetherReady();
    start().say({ state: "ready", flora: "f" });
    expect(await coming).toBe(true);
    stopCore("failed");
    expect(await whetherReady()).toBe(false);
  });

  it("is not tried where there is too little memory or no WebAssembly", () => {
    expect(isAble({ deviceMemory: 1 })).toBe(false);
    expect(isAble({ deviceMemory: 4 })).toBe(true);
    expect(isAble({})).toBe(true); // browsers that do not tell
    vi.stubGlobal("WebAssembly", undefined);
    expect(isAble({ deviceMemory: 8 })).toBe(false);
    const heard = vi.fn();
    const stop = onDeviceCore(heard);
    startCore();
    stop();
    expect([deviceCore(), heard.mock.calls.length]).toEqual(["unable", 1]);
  });
});
