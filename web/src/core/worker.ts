/// <reference lib="webworker" />
// The core in the browser: the same Python as on the server, off the page's thread.
import type { loadPyodide } from "pyodide";
import files from "./files.json";
import type { FromWorker, ToWorker } from "./messages";
import { floraText, store } from "./store";

declare const self: DedicatedWorkerGlobalScope;

interface Desk {
  answer: (operation: string, given: string) => string;
  flora: { version: string };
}

let desk: Desk | null = null;
let heap = () => 0;
const say = (message: FromWorker) => self.postMessage(message);

self.addEventListener("message", ({ data }: MessageEvent<ToWorker>) => {
  if ("start" in data) void start();
  else answer(data.id, data.operation, data.given);
});

async function start() {
  try {
    await store(files);
    const runtime = new URL(files.runtime, self.location.href).href;
    const [{ loadPyodide: load }, flora, archive] = await Promise.all([
      import(/* @vite-ignore */ `${runtime}pyodide.mjs`) as Promise<{ loadPyodide: typeof loadPyodide }>,
      floraText(),
      fetch(files.core).then((response) => response.arrayBuffer()),
    ]);
    const python = await load({ indexURL: runtime });
    const memory = (python as unknown as { _module: { HEAPU8: Uint8Array } })._module;
    heap = () => memory.HEAPU8.byteLength;
    python.unpackArchive(archive, "zip");
    desk = python.pyimport("jubark_core.desk").desk_of(flora) as Desk;
    // the views that a first case needs are filled before anyone waits for it
    desk.answer("name", JSON.stringify({ on: new Date().toISOString().slice(0, 10), observations: [] }));
    say({ state: "ready", flora: desk.flora.version });
  } catch (error) {
    say({ state: "failed", why: String(error) });
  }
}

function answer(id: number, operation: string, given: string) {
  try {
    if (!desk) throw new Error("not started");
    const told = desk.answer(operation, given);
    say({ id, answer: told, heap: heap() });
  } catch (error) {
    say({ id, broken: String(error) });
  }
}
