import { useEffect, useLayoutEffect, useRef } from "react";
import { useHotkeys } from "react-hotkeys-hook";

export interface Shortcut {
  key: string;
  label: string;
  run: () => void;
  /** where two take the same key, this one goes first */
  first?: boolean;
}

type Held = { current: Shortcut[] };
const held = new Set<Held>();

/** Every key that works now, for the list behind `?`. */
export const shortcutsNow = (): Shortcut[] => [...held].flatMap((l) => l.current);

const WRITTEN_IN = ["INPUT", "TEXTAREA", "SELECT"];

/**
 * Enter on a button presses the button; keys rest while one types, with Ctrl, Alt or Meta, and while a dialog is open. In
 * a field for numbers that says so (`data-letters="keys"`) letters are keys still.
 */
const rests = (event: KeyboardEvent) => {
  const at = event.target instanceof HTMLElement ? event.target : null;
  const on = at?.tagName ?? "";
  const letter = /^[a-z]$/.test(event.key) && at?.dataset["letters"] === "keys";
  if (WRITTEN_IN.includes(on) && !letter) return true;
  const pressing = event.key === "Enter" && ["BUTTON", "A", "SUMMARY"].includes(on);
  const modified = event.ctrlKey || event.metaKey || event.altKey;
  return pressing || modified || document.querySelector("[role=dialog]") !== null;
};

/** By what a key writes, not by where it is: '+' and '?' are elsewhere on every keyboard. */
const BY_KEY = {
  useKey: true,
  ignoreModifiers: true,
  splitKey: "¦",
  enableOnFormTags: true, // which of them take keys is said above
  ignoreEventWhen: rests,
} as const;

/** Keys of the screen that is open. */
export function useShortcuts(shortcuts: Shortcut[]) {
  const list = useRef(shortcuts);
  // before the screen is painted: a key pressed on what is seen must not act on what was there before
  useLayoutEffect(() => {
    list.current = shortcuts;
  });
  useEffect(() => {
    held.add(list);
    return () => {
      held.delete(list);
    };
  }, []);
  const act = (first: boolean) => (event: KeyboardEvent) => {
    if (event.defaultPrevented) return; // one that goes first has had it
    const chosen = list.current.find((s) => s.key === event.key && Boolean(s.first) === first);
    if (!chosen) return;
    event.preventDefault();
    chosen.run();
  };
  const keys = (first: boolean) => [
    ...new Set(shortcuts.filter((s) => Boolean(s.first) === first).map((s) => s.key.toLowerCase())),
  ];
  useHotkeys(keys(true), act(true), { ...BY_KEY, eventListenerOptions: { capture: true } });
  useHotkeys(keys(false), act(false), BY_KEY);
}
