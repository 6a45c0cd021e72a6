// The files of the core on this device: all of them or none, each checked by its hash.

export interface CoreFile {
  path: string;
  bytes: number;
  sha256: string;
}

export interface CoreFiles {
  version: string;
  files: CoreFile[];
}

const PREFIX = "core-";
const COMPLETE = "/core/complete"; // stands in a cache once everything of its version does
const FLORA = "flora-of-the-core"; // a cache of its own: the flora changes with the installation, not with the app
export const FLORA_AT = "/api/core/flora/";

/** Whether this device holds the whole of a version. */
export async function isStored({ version }: CoreFiles): Promise<boolean> {
  if (!(await caches.has(PREFIX + version))) return false;
  return (await (await caches.open(PREFIX + version)).match(COMPLETE)) !== undefined;
}

/**
 * Stores every file of a version; what an earlier version holds unchanged is taken from there. Where one fails,
 * nothing of it stays. Afterwards only this version and the one before it are kept: a page that is open still runs on
 * that.
 */
export async function store(core: CoreFiles): Promise<void> {
  if (await isStored(core)) return;
  const before = await versions();
  const name = PREFIX + core.version;
  try {
    const cache = await caches.open(name);
    for (const file of core.files) await cache.put(file.path, await fetched(file));
    await cache.put(COMPLETE, new Response(core.version));
  } catch (error) {
    await caches.delete(name);
    throw error;
  }
  const old = before.filter((v) => v !== name).slice(0, -1);
  await Promise.all(old.map((v) => caches.delete(v)));
}

const versions = async () => (await caches.keys()).filter((name) => name.startsWith(PREFIX));

async function fetched(file: CoreFile): Promise<Response> {
  const held = await caches.match(file.path);
  const response = held ?? (await fetch(file.path));
  if (!response.ok) throw new Error(`${file.path}: ${response.status}`);
  const data = await response.arrayBuffer();
  if ((await sha256(data)) !== file.sha256) throw new Error(`${file.path} is not what was built`);
  const type = response.headers.get("Content-Type");
  return new Response(data, type ? { headers: { "Content-Type": type } } : {});
}

async function sha256(data: ArrayBuffer): Promise<string> {
  const bytes = new Uint8Array(await crypto.subtle.digest("SHA-256", data));
  return [...bytes].map((b) => b.toString(16).padStart(2, "0")).join("");
}

/** The flora of this installation with its notes, as text: from the server, or offline the copy on this device. */
export async function floraText(): Promise<string> {
  const cache = await caches.open(FLORA);
  try {
    const response = await fetch(FLORA_AT, { credentials: "same-origin" });
    if (response.ok) {
      await cache.put(FLORA_AT, response.clone());
      return response.text();
    }
    if (response.status < 500) throw new Refusal(response.status);
  } catch (error) {
    if (error instanceof Refusal) throw error;
  }
  const held = await cache.match(FLORA_AT);
  if (!held) throw new Error("the flora is not on this device yet");
  return held.text();
}

/** Who may not have the flora does not get an older copy of it either. */
class Refusal extends Error {
  constructor(status: number) {
    super(`the flora: ${status}`);
  }
}

/** Takes the flora off this device: it belongs to the installation, and whoever signs out leaves nothing. */
export const forgetFlora = () => caches.delete(FLORA);
