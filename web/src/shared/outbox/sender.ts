import { api, call, OutOfSignal, type Refused, refusal, type Schemas, unwrap } from "@/api/client";
import { type OutboxItem, type PhotoItem, store } from "./store";

const MOST_AT_ONCE = 50;
const FIRST_WAIT_MS = 2_000;
const LONGEST_WAIT_MS = 60_000;
const SENT_KEPT_MS = 24 * 3600 * 1000;

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
      const rest = await sendAll(owner as string);
      if (rest) later();
    } catch (error) {
      if ((error as Refused).status === 401 || (error as Refused).status === 403) return; // keep all; the page asks to sign in
      if (error instanceof OutOfSignal || (error as Refused).status >= 500 || (error as Refused).status === 413) {
        batchSize = Math.max(1, Math.floor(batchSize / 2));
        later();
      } else throw error;
    }
  });
}

function later(): void {
  schedule(wait * (0.5 + Math.random()));
  wait = Math.min(LONGEST_WAIT_MS, wait * 2);
}

/** Sends everything of a member; true when something still waits. */
async function sendAll(member: string): Promise<boolean> {
  let waiting = false;
  for (;;) {
    const due = (await store.items.where({ owner: member, state: "kept" }).sortBy("order")).slice(0, batchSize);
    if (due.length === 0) break;
    const answers = await sendBatch(due);
    batchSize = Math.min(MOST_AT_ONCE, batchSize * 2);
    for (const listener of listeners) listener(true);
    if (!answers.some((a) => a.answer !== "waiting")) break;
  }
  waiting = (await store.items.where({ owner: member, state: "waiting" }).count()) > 0;
  await store.items.where({ owner: member, state: "waiting" }).modify({ state: "kept" });
  await sendPhotos(member);
  await store.items
    .where({ owner: member, state: "sent" })
    .filter((i) => i.order < Date.now() - SENT_KEPT_MS)
    .delete();
  return waiting;
}

async function sendBatch(due: OutboxItem[]): Promise<Schemas["Answer"][]> {
  const items = due.map((i) => ({ id: i.id, kind: i.kind, author: i.owner, recorded_at: i.recorded_at, schema: 1, body: i.body }));
  const { answers } = unwrap(await api.POST("/api/outbox/", { body: { sent_at: new Date().toISOString(), items } }));
  await store.transaction("rw", store.items, async () => {
    for (const [i, answer] of answers.entries()) {
      const item = due[i];
      if (!item) continue;
      if (answer.answer === "accepted" || answer.answer === "already")
        await store.items.update(item.id, { state: "sent", message: undefined });
      else if (answer.answer === "waiting") await store.items.update(item.id, { state: "waiting", message: `waits for ${answer.on}` });
      else await store.items.update(item.id, { state: "needs_you", message: answer.message ?? "refused" });
    }
  });
  return answers;
}

/** Photographs travel after their visit; the copy goes only when the server has echoed the hash. */
async function sendPhotos(member: string): Promise<void> {
  for (const photo of await store.photos.where({ owner: member, state: "kept" }).toArray()) await sendPhoto(photo);
}

async function sendPhoto(photo: PhotoItem): Promise<void> {
  const response = await call(`/api/photos/${photo.id}/`, {
    method: "PUT",
    body: photo.blob,
    headers: { "Content-Type": photo.blob.type },
  });
  const answer = await response.json().catch(() => ({}));
  if (response.ok && answer.sha256 === photo.sha256) await store.photos.delete(photo.id);
  else if (response.status === 404)
    return; // its visit is not there yet
  else if (response.status === 400) await store.photos.update(photo.id, { state: "needs_you", message: answer.message });
  else throw refusal(response.status, answer);
}
