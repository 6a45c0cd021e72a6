export const MODES = ["light", "dark", "sun"] as const;
export type Mode = (typeof MODES)[number];

/** Puts the mode chosen last time, or the device's own, on the page. */
export function restoreMode(): void {
  setMode(currentMode());
}

export function currentMode(): Mode {
  const kept = localStorage.getItem("mode");
  if (kept === "light" || kept === "dark" || kept === "sun") return kept;
  return matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";
}

export function setMode(mode: Mode): void {
  document.documentElement.dataset["mode"] = mode;
  localStorage.setItem("mode", mode);
}
