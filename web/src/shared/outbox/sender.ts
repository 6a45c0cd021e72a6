import type { EntityTable } from "dexie";
import { api, call, Offline, Refused, refusal, type Schemas, unwrap } from "@/api/client";
import { barePicture } from "@/shared/records/barePicture";
import { setSessionEnded } from "@/shared/session";
import { NotSaved, saved } from "./device";
import { type OutboxItem, type PhotoItem, type Sent, store } from "./store";

const MOST_AT_ONCE = 50;
const FIRST_WAIT_MS = 2_000;
const LONGEST_WAIT_MS = 60_000;
const DAY_MS = 24 * 3600 * 1000;
const SENT_KEPT_MS = DAY_MS;
const LONGEST_WAITING_MS = 7 * DAY_MS; // for something that has not reached the server: then a person looks
const MOST_FAILURES = 4; // of the server on one thing alone, before it steps aside for what stands behind it
// the server, or what stands before it, is away or has no room: nothing is wrong with what was sent
const AWAY = [429, 502, 503, 504, 507];

type Listener = (changed: boolean) => void;
const listeners = new Set<Listener>();
let owner: string | null = null;
let wait = FIRST_WAIT_MS;
let timer: ReturnType<typeof setTimeout> | undefined;
let batchSize = MOST_AT_ONCE;

/** Called with true after something was accepted, so that reads can be refreshed. */
export function onSent(listener: Listener): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Whose items may be sent; null while nobody is signed in: everything is kept. */
export function setOwner(member: string | null): void {
  owner = member;
  if (member) nudge();
}

/** Starts sending when signal comes back, and asks the browser to keep the store. */
export function startSender(): void {
  addEventListener("online", () => nudge());
  addEventListener("visibilitychange", () => document.visibilityState === "visible" && nudge());
  void navigator.storage?.persist?.();
}

/** Send soon. */
export function nudge(): void {
  wait = FIRST_WAIT_MS;
  schedule(0);
}

function schedule(delay: number): void {
  clearTimeout(timer);
  timer = setTimeout(() => void send(), delay);
}

/** One sender across all tabs; another tab that holds the lock does the work. */
async function send(): Promise<void> {
  if (!owner) return;
  await navigator.locks.request("jubark-outbox", { ifAvailable: true }, async (lock) => {
    if (!lock) return schedule(FIRST_WAIT_MS);
    try {
      if (await sendAll(owner as string)) later();
    } catch (error) {
      if (error instanceof SignInFirst) return setSessionEnded(true); // everything stays; the page asks to sign in
      later(); // whatever it was: what is saved is tried again
      if (!(error instanceof Offline || error instanceof Refused || error instanceof NotSaved)) throw error;
    }
  });
}

/** Nobody is signed in, or not who wrote it. */
class SignInFirst extends Error {}

function later(): void {
  schedule(wait * (0.5 + Math.random()));
  wait = Math.min(LONGEST_WAIT_MS, wait * 2);
}

/** Sends everything of a member; true when something is left to send again. */
async function sendAll(member: string): Promise<boolean> {
  await store.items.where({ owner: member, state: "waiting" }).modify({ state: "saved" });
  let again = true;
  while (again) {
    again = await sendPass(member);
    // what waited for something that has come now is tried once more
    if (again) await store.items.where({ owner: member, state: "waiting" }).modify({ state: "saved" });
  }
  await giveUpWaiting(member);
  const photosLeft = await sendPhotos(member);
  await store.items
    .where({ owner: member, state: "sent" })
    .filter((i) => i.order < Date.now() - SENT_KEPT_MS)
    .delete();
  return (
    photosLeft ||
    (await store.items
      .where({ owner: member })
      .filter((i) => i.state === "saved" || i.state === "waiting")
      .count()) > 0
  );
}

/** Every kept item once, past those that have to wait; true when something was accepted that others may have waited for. */
async function sendPass(member: string): Promise<boolean> {
  let accepted = false;
  for (;;) {
    const due = (await store.items.where({ owner: member, state: "saved" }).sortBy("order")).slice(
      0,
      batchSize,
    );
    if (due.length === 0) break;
    if ((await sendBatch(due)).some((a) => a.answer === "accepted")) accepted = true;
  }
  return accepted && (await store.items.where({ owner: member, state: "waiting" }).count()) > 0;
}

/** Sends a batch. Where the server fails on it, it is halved; where it fails on one item alone, that one steps aside. */
async function sendBatch(due: OutboxItem[]): Promise<Schemas["Answer"][]> {
  const items = due.map((i) => ({
    id: i.id,
    kind: i.kind,
    author: i.owner,
    recorded_at: i.recorded_at,
    schema: i.version,
    body: i.body,
  }));
  try {
    const { answers } = unwrap(
      await api.POST("/api/outbox/", { body: { sent_at: new Date().toISOString(), items: items as Sent[] } }),
    );
    batchSize = Math.min(MOST_AT_ONCE, batchSize * 2);
    await noteAnswers(due, answers);
    for (const listener of listeners) listener(true);
    return answers;
  } catch (error) {
    if (error instanceof Refused && (error.status === 401 || error.status === 403)) throw new SignInFirst();
    batchSize = Math.max(1, Math.floor(due.length / 2));
    if (!(error instanceof Refused) || AWAY.includes(error.status)) throw error;
    const only = due.length === 1 ? due[0] : undefined;
    if (!only) return []; // again, by halves
    if (await stepAside(store.items, only, error)) return [];
    throw error;
  }
}

async function noteAnswers(due: OutboxItem[], answers: Schemas["Answer"][]): Promise<void> {
  const write = store.transaction("rw", store.items, async () => {
    for (const [i, answer] of answers.entries()) {
      const item = due[i];
      if (!item) continue;
      if (answer.answer === "accepted" || answer.answer === "already")
        await store.items.update(item.id, {
          state: "sent",
          sent_at: Date.now(),
          message: undefined,
          failures: 0,
        });
      else if (answer.answer === "waiting")
        await store.items.update(item.id, { state: "waiting", message: `waits for ${answer.on}` });
      else
        await store.items.update(item.id, { state: "needs_attention", message: answer.message ?? "refused" });
    }
  });
  await saved(write);
}

/** Counts a failure of the server on one thing alone; true when it now needs a person and holds up nothing any more. */
async function stepAside<T extends { id: string; failures?: number }>(
  table: EntityTable<T & { state: string; message?: string | undefined }, "id">,
  thing: T,
  error: Refused,
): Promise<boolean> {
  const failures = (thing.failures ?? 0) + 1;
  const forGood = error.status < 500; // 400, 413: the same again would be answered the same
  const aside = forGood || failures >= MOST_FAILURES;
  await table.update(
    thing.id as never,
    (aside ? { state: "needs_attention", message: error.message, failures } : { failures }) as never,
  );
  return aside;
}

/** What has waited for days for something that does not come needs a person. */
async function giveUpWaiting(member: string): Promise<void> {
  await store.items
    .where({ owner: member, state: "waiting" })
    .filter((i) => i.order < Date.now() - LONGEST_WAITING_MS)
    .modify((i) => {
      i.state = "needs_attention";
      i.message = `${i.message}, for ${Math.floor((Date.now() - i.order) / DAY_MS)} days now`;
    });
}

/** Photographs travel after their visit; the copy goes only when the server has echoed the hash. True when one is left to send. */
async function sendPhotos(member: string): Promise<boolean> {
  let left = false;
  for (const photo of await store.photos.where({ owner: member, state: "saved" }).toArray()) {
    if (!(await sendPhoto(photo))) left = true;
  }
  return left;
}

async function isBare(blob: Blob): Promise<boolean> {
  try {
    const data = new Uint8Array(await blob.arrayBuffer());
    return barePicture(data).length === data.length;
  } catch {
    return true; // the server says what is wrong with it
  }
}

/** True when the photograph is dealt with: sent, or set aside for a person. */
async function sendPhoto(photo: PhotoItem): Promise<boolean> {
  // one that an earlier version of the app hashed as the browser had made it, the server makes bare
  const strip = (await isBare(photo.blob)) ? "" : "?strip=1";
  const response = await call(`/api/photos/${photo.id}/${strip}`, {
    method: "PUT",
    body: photo.blob,
    headers: { "Content-Type": photo.blob.type },
  });
  const answer = await response.json().catch(() => null);
  if (response.ok && answer?.sha256 === photo.sha256) {
    await store.photos.delete(photo.id);
    return true;
  }
  if (response.ok && !answer?.sha256) throw new Offline(); // whoever answered has not got it
  const refused = refusal(response.status, answer);
  if (response.status === 401 || response.status === 403) throw new SignInFirst();
  if (AWAY.includes(response.status)) throw refused;
  if (response.status === 404) {
    // its visit is not there yet; after days it will not come any more
    if ((photo.at ?? Date.now()) > Date.now() - LONGEST_WAITING_MS) return false;
    await store.photos.update(photo.id, {
      state: "needs_attention",
      message: "The visit it belongs to has not reached the server.",
    });
    return true;
  }
  return stepAside(store.photos as never, photo, refused);
}
