// @vitest-environment happy-dom
import { act } from "react";
import { createRoot } from "react-dom/client";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { type Shortcut, shortcutsNow, useShortcuts } from "./shortcuts";

const acts = { plain: vi.fn(), first: vi.fn(), more: vi.fn() };
let root: ReturnType<typeof createRoot>;

function Screen({ keys }: { keys: Shortcut[] }) {
  useShortcuts(keys);
  return (
    <>
      <input aria-label="words" />
      <button type="button">press</button>
    </>
  );
}
const show = (...screens: Shortcut[][]) =>
  act(() => root.render(screens.map((keys, i) => <Screen key={i} keys={keys} />)));
const press = (key: string, target: Element = document.body, more: object = {}) =>
  act(() => {
    const code = /^[a-z]$/i.test(key) ? `Key${key.toUpperCase()}` : key;
    target.dispatchEvent(
      new KeyboardEvent("keydown", { key, code, bubbles: true, cancelable: true, ...more }),
    );
  });

beforeEach(() => {
  (globalThis as { IS_REACT_ACT_ENVIRONMENT?: boolean }).IS_REACT_ACT_ENVIRONMENT = true;
  for (const mock of Object.values(acts)) mock.mockReset();
  const box = document.createElement("div");
  document.body.append(box);
  root = createRoot(box);
});
afterEach(async () => {
  await act(() => root.unmount());
  document.body.replaceChildren();
});

describe("keys of a screen", () => {
  it.each(["s", "+", "?", ".", "1", "Enter"])("%s acts, by what the key writes", async (key) => {
    await show([{ key, label: "it", run: acts.plain }]);
    await press(key, document.body, { shiftKey: key === "?" });
    expect(acts.plain).toHaveBeenCalledTimes(1);
  });

  it("a capital is another key", async () => {
    await show([
      { key: "s", label: "save", run: acts.plain },
      { key: "S", label: "survey", run: acts.more },
    ]);
    await press("S", document.body, { shiftKey: true });
    expect([acts.plain.mock.calls.length, acts.more.mock.calls.length]).toEqual([0, 1]);
  });

  it("they rest while one types, with Ctrl, and while a dialog is open; Enter on a button presses it", async () => {
    await show([
      { key: "s", label: "save", run: acts.plain },
      { key: "Enter", label: "go on", run: acts.more },
    ]);
    await press("s", document.querySelector("input") as Element);
    await press("s", document.body, { ctrlKey: true });
    await press("Enter", document.querySelector("button") as Element);
    const dialog = document.createElement("div");
    dialog.setAttribute("role", "dialog");
    document.body.append(dialog);
    await press("s");
    expect([acts.plain.mock.calls.length, acts.more.mock.calls.length]).toEqual([0, 0]);
    dialog.remove();
    await press("s");
    expect(acts.plain).toHaveBeenCalledTimes(1);
  });

  it("letters are keys in a field for numbers that says so, figures are not", async () => {
    await show([
      { key: "z", label: "undo", run: acts.plain },
      { key: "1", label: "the first", run: acts.more },
    ]);
    const field = document.querySelector("input") as HTMLInputElement;
    field.dataset["letters"] = "keys";
    await press("z", field);
    await press("1", field);
    expect([acts.plain.mock.calls.length, acts.more.mock.calls.length]).toEqual([1, 0]);
  });

  it("where two screens take the same key, the one that goes first has it alone", async () => {
    await show(
      [{ key: "Enter", label: "go on", run: acts.plain }],
      [{ key: "Enter", label: "save what is picked", run: acts.first, first: true }],
    );
    await press("Enter");
    expect([acts.plain.mock.calls.length, acts.first.mock.calls.length]).toEqual([0, 1]);
  });

  it("what a key does follows the screen, and the list behind ? holds what works now", async () => {
    await show([{ key: "1", label: "one", run: acts.plain }]);
    await show([{ key: "1", label: "two", run: acts.more }]);
    await press("1");
    expect([acts.plain.mock.calls.length, acts.more.mock.calls.length]).toEqual([0, 1]);
    expect(shortcutsNow().map((s) => s.label)).toEqual(["two"]);
    await show();
    expect(shortcutsNow()).toEqual([]);
  });
});
