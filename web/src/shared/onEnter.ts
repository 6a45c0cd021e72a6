import type { KeyboardEvent } from "react";

/** Enter does this and nothing else: where the focus moves on, the same key press must not act there again. */
export const onEnter = (act: () => void) => (event: KeyboardEvent) => {
  if (event.key !== "Enter") return;
  event.preventDefault();
  act();
};
