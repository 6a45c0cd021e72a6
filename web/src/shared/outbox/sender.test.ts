// @vitest-environment happy-dom
import "fake-indexeddb/auto";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { nudge, setOwner } from "./sender";
import { type OutboxItem, store } from "./store";

interface Sent {
  id: string;
}
type Answers = (items: Sent[]) => { status: number; body: unknown };

/** The server of a test: what it got, batch by batch, and how it answers. */
const server = { batches: [] as string[][], answer: ((items) => accepted(items)) as Answers, photo: "" };
const accepted = (items: Sent[]) => ({
  status: 200,
  body: { answers: items.map((i) => ({ id: i.id, answer: "accepted" })) },
});
const refusedWith = (status: number) => ({ status, body: { code: "x", message: `refused with ${status}` } });

async function fetched(request: Request): Promise<Response> {
  if (request.method === "PUT")
    return Response.json({ sha256: server.photo }, { status: server.photo ? 200 : 404 });
  const { items } = (await request.json()) as { items: Sent[] };
  server.batches.push(items.map((i) => i.id));
  const { status, body } = server.answer(items);
  if (status === 0) throw new TypeError("no network");
  return Response.json(body, { status });
}

const item = (id: string, order: number, owner = "me"): OutboxItem => ({
  id,
  owner,
  kind: "visit",
  version: 3,
  body: { id } as OutboxItem["body"],
  recorded_at: "2026-10-20T10:00:00Z",
  order: Date.now() + order,
  state: "saved",
});
const put = (...ids: string[]) => store.items.bulkPut(ids.map((id, i) => item(id, i)));
const states = async () =>
  Object.fromEntries((await store.items.toArray()).map((i) => [i.id, i.state])) as Record<string, string>;
const until = (expected: Record<string, string>) =>
  vi.waitFor(async () => expect(await states()).toEqual(expected), { timeout: 5000, interval: 5 });
/** Until the sender has asked so many more times, being nudged on. */
const asked = (times: number) =>
  vi.waitFor(
    () => {
      nudge();
      expect(server.batches.length).toBeGreaterThanOrEqual(times);
    },
    { timeout: 5000, interval: 20 },
  );

/** Until the photograph is in this state (undefined: gone), the sender being nudged on: a nudge while it runs waits. */
const photograph = (state: string | undefined) =>
  vi.waitFor(
    async () => {
      nudge();
      expect((await store.photos.get("p"))?.state).toBe(state);
    },
    { timeout: 4500, interval: 20 },
  );

beforeEach(async () => {
  vi.stubGlobal("fetch", fetched);
  let held = false; // as the browser's lock: a sender that is late finds it taken
  const request = async (_: string, __: object, run: (lock: object | null) => unknown) => {
    if (held) return run(null);
    held = true;
    try {
      return await run({});
    } finally {
      held = false;
    }
  };
  Object.defineProperty(navigator, "locks", { configurable: true, value: { request } });
  Object.assign(server, { batches: [], answer: accepted, photo: "" });
  await Promise.all([store.items.clear(), store.photos.clear()]);
});
afterEach(() => setOwner(null));

describe("the sender", () => {
  it("sends what is saved in the order in which it was made, in one batch", async () => {
    await put("a", "b", "c");
    setOwner("me");
    await until({ a: "sent", b: "sent", c: "sent" });
    expect(server.batches).toEqual([["a", "b", "c"]]);
  });

  it("never sends what another member wrote", async () => {
    await store.items.bulkPut([item("mine", 0), item("theirs", 1, "other")]);
    setOwner("me");
    await until({ mine: "sent", theirs: "saved" });
    expect(server.batches.flat()).toEqual(["mine"]);
  });

  it("halves a batch on which the server fails, and sends everything but the one it fails on", async () => {
    server.answer = (items) => (items.some((i) => i.id === "bad") ? refusedWith(500) : accepted(items));
    await put("a", "b", "bad", "c", "d");
    setOwner("me");
    await asked(8);
    await until({ a: "sent", b: "sent", bad: "needs_attention", c: "sent", d: "sent" });
    expect(server.batches[0]).toEqual(["a", "b", "bad", "c", "d"]);
    expect(server.batches[1]).toEqual(["a", "b"]);
    const alone = server.batches.filter((b) => b.length === 1 && b[0] === "bad");
    expect(alone).toHaveLength(4); // once more may help with a 500; after four it steps aside
  });

  it.each([400, 413])(
    "puts aside at once what is refused with %i, which would be answered so again",
    async (status) => {
      server.answer = (items) => (items.some((i) => i.id === "bad") ? refusedWith(status) : accepted(items));
      await put("bad", "b");
      setOwner("me");
      await until({ bad: "needs_attention", b: "sent" });
      expect(server.batches.filter((b) => b[0] === "bad" && b.length === 1)).toHaveLength(1);
      expect((await store.items.get("bad"))?.message).toBe(`refused with ${status}`);
    },
  );

  it.each([401, 403])("keeps everything on %i: somebody has to sign in", async (status) => {
    server.answer = () => refusedWith(status);
    await put("a", "b");
    setOwner("me");
    await asked(1);
    await until({ a: "saved", b: "saved" });
  });

  it.each([0, 429, 503])(
    "keeps everything while the server is away (%i), and sends it afterwards",
    async (status) => {
      server.answer = () => refusedWith(status);
      await put("a", "b");
      setOwner("me");
      await asked(1);
      await until({ a: "saved", b: "saved" });
      server.answer = accepted;
      nudge();
      await until({ a: "sent", b: "sent" });
    },
  );

  it("what waits for a plant is asked about again once something has come", async () => {
    let there = false;
    server.answer = (items) => ({
      status: 200,
      body: {
        answers: items.map((i) => {
          if (i.id === "visit" && !there) return { id: i.id, answer: "waiting", on: "plant" };
          there ||= i.id === "plant";
          return { id: i.id, answer: "accepted" };
        }),
      },
    });
    await put("visit", "plant");
    setOwner("me");
    await until({ visit: "sent", plant: "sent" });
    expect(server.batches).toEqual([["visit", "plant"], ["visit"]]);
  });

  it("what is refused needs a person, and holds up nothing behind it", async () => {
    server.answer = (items) => ({
      status: 200,
      body: {
        answers: items.map((i) =>
          i.id === "bad"
            ? { id: i.id, answer: "refused", message: "Diameter 420 cm" }
            : { id: i.id, answer: i.id === "again" ? "already" : "accepted" },
        ),
      },
    });
    await put("bad", "again", "new");
    setOwner("me");
    await until({ bad: "needs_attention", again: "sent", new: "sent" });
    expect((await store.items.get("bad"))?.message).toBe("Diameter 420 cm");
  });

  it("drops the copy of a photograph only when the server has echoed its hash", async () => {
    await store.photos.put({ id: "p", owner: "me", blob: new Blob(["x"]), sha256: "abc", state: "saved" });
    await put("a");
    setOwner("me"); // its visit is not there yet: 404
    await until({ a: "sent" });
    expect((await store.photos.get("p"))?.state).toBe("saved");
    server.photo = "abc";
    await photograph(undefined);
  });

  it("a photograph that arrived as another is kept, for a person to look at", async () => {
    await store.photos.put({ id: "p", owner: "me", blob: new Blob(["x"]), sha256: "abc", state: "saved" });
    server.photo = "other";
    setOwner("me");
    await photograph("needs_attention");
    expect((await store.photos.get("p"))?.blob).toBeDefined();
  });

  it("F22: takes a page of whoever stands in between for no answer, and tries on by itself", async () => {
    vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"] });
    const page = () =>
      new Response("<h1>Accept the terms</h1>", { headers: { "Content-Type": "text/html" } });
    let portal = true;
    vi.stubGlobal("fetch", async (request: Request) => (portal ? page() : fetched(request)));
    await put("a");
    setOwner("me");
    for (let i = 0; i < 5; i++) await vi.advanceTimersByTimeAsync(5_000);
    expect(await states()).toEqual({ a: "saved" });
    portal = false; // nobody says that the network is back
    for (let i = 0; i < 30; i++) await vi.advanceTimersByTimeAsync(5_000);
    vi.useRealTimers();
    await until({ a: "sent" });
  });

  it.each([507, 503])(
    "F21: a photograph waits where the server has no room or is away (%i)",
    async (status) => {
      vi.stubGlobal("fetch", async (request: Request) =>
        request.method === "PUT" ? Response.json({ code: "storage_full" }, { status }) : fetched(request),
      );
      await store.photos.put({ id: "p", owner: "me", blob: new Blob(["x"]), sha256: "1", state: "saved" });
      setOwner("me");
      for (let i = 0; i < 6; i++) {
        nudge();
        await new Promise((done) => setTimeout(done, 20));
      }
      const photo = await store.photos.get("p");
      expect([photo?.state, photo?.failures]).toEqual(["saved", undefined]);
    },
  );
});
