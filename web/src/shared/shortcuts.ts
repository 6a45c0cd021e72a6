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

/** Enter on a button presses the button; keys rest with Ctrl, Alt or Meta, and while a dialog is open. */
const rests = (event: KeyboardEvent) => {
  const on = event.target instanceof HTMLElement ? event.target.tagName : "";
  const pressing = event.key === "Enter" && ["BUTTON", "A", "SUMMARY"].includes(on);
  const modified = event.ctrlKey || event.metaKey || event.altKey;
  return pressing || modified || document.querySelector("[role=dialog]") !== null;
};

/** By what a key writes, not by where it is: '+' and '?' are elsewhere on every keyboard. They rest while one types. */
const BY_KEY = { useKey: true, ignoreModifiers: true, splitKey: "¦", ignoreEventWhen: rests } as const;

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
