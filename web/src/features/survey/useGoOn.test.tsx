// @vitest-environment happy-dom
import { act } from "react";
import { createRoot } from "react-dom/client";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Figure } from "./useFigure";
import { useGoOn } from "./useGoOn";

const checked = (value: number, more: object = {}) =>
  ({
    quantity: "dbh_cm",
    value,
    unit: "cm",
    stems: 1,
    warnings: [],
    meant: [],
    before: null,
    ...more,
  }) as NonNullable<Figure["checked"]>;
const figure = (more: Partial<Figure> = {}): Figure => ({
  value: null,
  error: undefined,
  offline: false,
  checked: undefined,
  ...more,
});

const next = vi.fn();
let goOn: (value: number) => void;
let root: ReturnType<typeof createRoot>;

function Step({ of }: { of: Figure }) {
  goOn = useGoOn(of, next);
  return null;
}
const show = (of: Figure) => act(() => root.render(<Step of={of} />));
const enter = (value: number) => act(() => goOn(value));

beforeEach(() => {
  (globalThis as { IS_REACT_ACT_ENVIRONMENT?: boolean }).IS_REACT_ACT_ENVIRONMENT = true;
  next.mockReset();
  root = createRoot(document.createElement("div"));
});
afterEach(() => act(() => root.unmount()));

describe("going on by itself", () => {
  it("waits for the check of the figure that was entered, and goes on where nothing speaks against it", async () => {
    await show(figure({ value: 20, checked: checked(20) })); // the one before
    await enter(31.496);
    expect(next).not.toHaveBeenCalled();
    await show(figure({ value: 31.496 }));
    expect(next).not.toHaveBeenCalled();
    await show(figure({ value: 31.496, checked: checked(31.496) }));
    expect(next).toHaveBeenCalledTimes(1);
    await show(figure({ value: 31.496, checked: checked(31.496) }));
    expect(next).toHaveBeenCalledTimes(1);
  });

  it.each([
    ["a warning", { checked: checked(31.496, { warnings: ["Stems do not shrink."] }) }],
    ["a doubt of how it was taken", { checked: checked(31.496, { warning: "Stand farther off." }) }],
    ["a refusal", { error: "dbh_cm: 9999 is not allowed" }],
  ])("stays with %s, also afterwards", async (_, found) => {
    await show(figure());
    await enter(31.496);
    await show(figure({ value: 31.496, ...found }));
    await show(figure({ value: 31.496, checked: checked(31.496) }));
    expect(next).not.toHaveBeenCalled();
  });

  it("goes on offline once the figure is on the device: nothing can be checked there", async () => {
    await show(figure({ offline: true }));
    await enter(31.496);
    expect(next).not.toHaveBeenCalled();
    await show(figure({ offline: true, value: 31.496 }));
    expect(next).toHaveBeenCalledTimes(1);
  });

  it("does nothing for a figure nobody entered here", async () => {
    await show(figure({ value: 31.496, checked: checked(31.496) }));
    expect(next).not.toHaveBeenCalled();
  });
});
