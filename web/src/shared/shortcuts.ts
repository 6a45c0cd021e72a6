import { useEffect, useRef } from "react";

export interface Shortcut {
  key: string;
  label: string;
  run: () => void;
  /** where two take the same key, the higher goes first */
  first?: boolean;
}

type Held = { current: Shortcut[] };
const held = new Set<Held>();

/** Keys of the screen that is open. They rest while one types, while a dialog is open, and with Ctrl, Alt or Meta. */
export function useShortcuts(shortcuts: Shortcut[]) {
  const list = useRef(shortcuts);
  useEffect(() => {
    list.current = shortcuts;
  });
  useEffect(() => {
    held.add(list);
    return () => {
      held.delete(list);
    };
  }, []);
}

/** Every key that works now, for the list behind `?`. */
export const shortcutsNow = (): Shortcut[] => [...held].flatMap((l) => l.current);

/** One listener for the whole app. */
export function useShortcutListener() {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target instanceof HTMLElement ? event.target : null;
      const typing =
        target && (["INPUT", "TEXTAREA", "SELECT"].includes(target.tagName) || target.role === "slider");
      const pressing = event.key === "Enter" && target && ["BUTTON", "A", "SUMMARY"].includes(target.tagName);
      if (
        typing ||
        pressing ||
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        document.querySelector("[role=dialog]")
      )
        return;
      const fitting = shortcutsNow().filter((s) => s.key === event.key);
      const chosen = fitting.find((s) => s.first) ?? fitting[0];
      if (!chosen) return;
      event.preventDefault();
      chosen.run();
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, []);
}
