// What the page and the worker of the core say to each other.

export type ToWorker = { start: true } | { id: number; operation: string; given: string };

export type FromWorker =
  | { state: "ready"; flora: string }
  | { state: "failed"; why: string }
  | { id: number; answer: string; heap: number } // JSON: {"answer": …} or {"refused": …}; bytes the core holds
  | { id: number; broken: string }; // the core itself failed: the server is asked
