import { webcrypto } from "node:crypto";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { FLORA_AT, floraText, forgetFlora, isStored, store } from "./store";

/** The cache storage of a browser, as far as the store uses it. */
class Caches {
  held = new Map<string, Map<string, Response>>();
  has = async (name: string) => this.held.has(name);
  keys = async () => [...this.held.keys()];
  delete = async (name: string) => this.held.delete(name);
  open = async (name: string) => {
    const cache = this.held.get(name) ?? new Map<string, Response>();
    this.held.set(name, cache);
    return {
      match: async (path: string) => cache.get(path)?.clone(),
      put: async (path: string, response: Response) => void cache.set(path, response),
    };
  };
  match = async (path: string) =>
    [...this.held.values()]
      .map((cache) => cache.get(path))
      .find(Boolean)
      ?.clone();
}
let device: Caches;
const served = new Map<string, string>();
const fetched = vi.fn(async (path: string) =>
  served.has(path) ? new Response(served.get(path)) : new Response("", { status: 404 }),
);

async function core(version: string, ...paths: string[]) {
  const hash = async (path: string) =>
    Buffer.from(await webcrypto.subtle.digest("SHA-256", Buffer.from(served.get(path) ?? ""))).toString(
      "hex",
    );
  const files = await Promise.all(paths.map(async (path) => ({ path, bytes: 1, sha256: await hash(path) })));
  return { version, files };
}

beforeEach(() => {
  device = new Caches();
  vi.stubGlobal("caches", device);
  vi.stubGlobal("fetch", fetched);
  served.clear();
  served.set("/core/a", "runtime").set("/core/b", "core 1").set("/core/c", "core 2").set("/core/d", "core 3");
  fetched.mockClear();
});
afterEach(() => vi.unstubAllGlobals());

describe("the files of the core", () => {
  it("are stored whole, once", async () => {
    const first = await core("1", "/core/a", "/core/b");
    expect(await isStored(first)).toBe(false);
    await store(first);
    expect(await isStored(first)).toBe(true);
    await store(first);
    expect(fetched).toHaveBeenCalledTimes(2);
  });

  it("leave nothing where one of them does not come", async () => {
    const first = await core("1", "/core/a", "/core/b");
    served.delete("/core/b");
    await expect(store(first)).rejects.toThrow("/core/b: 404");
    expect([...device.held.keys()]).toEqual([]);
  });

  it("leave nothing where one is not what was built: a page of a hotel's network, half a file", async () => {
    const first = await core("1", "/core/a", "/core/b");
    served.set("/core/b", "core");
    await expect(store(first)).rejects.toThrow("/core/b is not what was built");
    expect(await isStored(first)).toBe(false);
  });

  it("take over what an earlier version holds unchanged, and keep that one for pages still open", async () => {
    await store(await core("1", "/core/a", "/core/b"));
    await store(await core("2", "/core/a", "/core/c"));
    expect(fetched.mock.calls.map(([path]) => path)).toEqual(["/core/a", "/core/b", "/core/c"]);
    expect([...device.held.keys()]).toEqual(["core-1", "core-2"]);
    await store(await core("3", "/core/a", "/core/d"));
    expect([...device.held.keys()]).toEqual(["core-2", "core-3"]);
  });

  it("are not taken for whole when the last load broke off in between", async () => {
    const first = await core("1", "/core/a", "/core/b");
    await (await device.open("core-1")).put("/core/a", new Response("runtime"));
    expect(await isStored(first)).toBe(false);
    await store(first);
    expect(await isStored(first)).toBe(true);
  });
});

describe("the flora of the installation", () => {
  it("comes from the server, and offline from this device", async () => {
    served.set(FLORA_AT, "flora");
    expect(await floraText()).toBe("flora");
    fetched.mockRejectedValueOnce(new TypeError("no network"));
    expect(await floraText()).toBe("flora");
    fetched.mockResolvedValueOnce(new Response("", { status: 503 }));
    expect(await floraText()).toBe("flora");
  });

  it("is not given to who may not have it any more, and leaves with who signs out", async () => {
    served.set(FLORA_AT, "flora");
    await floraText();
    fetched.mockResolvedValueOnce(new Response("", { status: 401 }));
    await expect(floraText()).rejects.toThrow("401");
    await forgetFlora();
    fetched.mockRejectedValueOnce(new TypeError("no network"));
    await expect(floraText()).rejects.toThrow("not on this device yet");
  });
});
