// @vitest-environment happy-dom
import { act } from "react";
import { createRoot } from "react-dom/client";
import { expect, it, vi } from "vitest";
import { JudgeRows } from "./JudgeRows";

const OPTIONS = [
  { id: "good", label: "good" },
  { id: "poor", label: "poor" },
];
const press = (key: string) =>
  act(() => {
    document.dispatchEvent(new KeyboardEvent("keydown", { key, code: `Digit${key}`, bubbles: true }));
  });

it("a digit typed before the last answer is back answers the next row, not the same one again", async () => {
  (globalThis as { IS_REACT_ACT_ENVIRONMENT?: boolean }).IS_REACT_ACT_ENVIRONMENT = true;
  const given: string[] = [];
  const set = vi.fn((id: string, value: string) => given.push(`${id} ${value}`));
  const box = document.createElement("div");
  document.body.append(box);
  const root = createRoot(box);
  const show = (values: Record<string, string>) =>
    act(() =>
      root.render(
        <JudgeRows
          rows={["trunk", "limbs", "twigs"].map((id) => ({
            id,
            label: id,
            options: OPTIONS,
            value: values[id] ?? "",
            set: (value) => set(id, value),
          }))}
        />,
      ),
    );
  await show({});
  await press("1");
  await press("2"); // nothing shown as answered yet
  expect(given).toEqual(["trunk good", "limbs poor"]);
  await show({ trunk: "good", limbs: "poor" });
  await show({ limbs: "poor" }); // taken back: open again
  await press("2");
  expect(given).toEqual(["trunk good", "limbs poor", "trunk poor"]);
  await act(() => root.unmount());
});
