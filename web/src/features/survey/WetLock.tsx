import { useRef, useState } from "react";

const HOLD_MS = 1200;

/** Drops on a wet screen are no taps: while locked only a long press on one place, or the key u, opens it again. */
export function WetLock() {
  const [locked, setLocked] = useState(false);
  const [holding, setHolding] = useState(false);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const hold = () => {
    setHolding(true);
    timer.current = setTimeout(() => {
      setLocked(false);
      setHolding(false);
    }, HOLD_MS);
  };
  const let_go = () => {
    clearTimeout(timer.current);
    setHolding(false);
  };
  if (!locked)
    return (
      <button
        type="button"
        aria-label="Lock the screen"
        className="target text-sm text-slate underline"
        onClick={() => setLocked(true)}
      >
        Lock<span className="hidden sm:inline"> the screen</span>
      </button>
    );
  return (
    <div
      role="dialog"
      aria-label="Screen locked"
      aria-modal="true"
      className="fixed inset-0 z-50 grid touch-none content-end justify-items-center bg-board/30 p-8"
    >
      <button
        type="button"
        // biome-ignore lint/a11y/noAutofocus: the keyboard must reach the way out
        autoFocus
        onPointerDown={hold}
        onPointerUp={let_go}
        onPointerLeave={let_go}
        onContextMenu={(e) => e.preventDefault()}
        onKeyDown={(e) => e.key === "u" && setLocked(false)}
        className={`min-h-[88px] w-full max-w-md border-4 border-ink text-xl font-bold ${holding ? "bg-lichen" : "bg-sheet"}`}
      >
        {holding ? "Hold on …" : "Locked. Hold here to unlock, or press u"}
      </button>
    </div>
  );
}
