// @vitest-environment happy-dom
import { act } from "react";
import { createRoot } from "react-dom/client";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import type { Schemas } from "@/api/client";
import type { Vocabulary } from "@/shared/records/reads";
import { OrganList } from "./OrganList";

const vocabulary = {
  organs: [{ id: "bud", label: "Bud" }],
  characters: [
    { id: "bud.sticky", organ: "bud", label: "Is the bud sticky", term: "viscid" },
    { id: "bud.scales", organ: "bud", label: "Scales of the bud", term: "scales" },
    { id: "bark.texture", organ: "bark", label: "Surface of the bark", term: "texture" },
  ],
} as unknown as Vocabulary;
const worth = (character: string, gain_bits: number) =>
  ({ character, gain_bits }) as unknown as Schemas["NextLook"];
const touching = { character: "bud.sticky", why: "poison-ivy is still possible" } as Schemas["Withheld"];

let root: ReturnType<typeof createRoot>;
const onAsk = vi.fn();
const show = (looks: Schemas["NextLook"][], withheld: Schemas["Withheld"][], done: string[] = []) =>
  act(() =>
    root.render(
      <OrganList
        vocabulary={vocabulary}
        organ="bud"
        done={new Set(done)}
        looks={looks}
        withheld={withheld}
        onAsk={onAsk}
      />,
    ),
  );
const rows = () => [...document.querySelectorAll("button")].map((b) => b.textContent);

beforeEach(() => {
  (globalThis as { IS_REACT_ACT_ENVIRONMENT?: boolean }).IS_REACT_ACT_ENVIRONMENT = true;
  onAsk.mockReset();
  const box = document.createElement("div");
  document.body.append(box);
  root = createRoot(box);
});
afterEach(async () => {
  await act(() => root.unmount());
  document.body.replaceChildren();
});

it("lists what is withheld, so that the answer on its way can free it", async () => {
  await show([worth("bud.scales", 1)], [touching]);
  expect(rows()).toEqual(["1Scales of the bud scalestells much", "2Is the bud sticky viscidwithheld"]);

  await show([worth("bud.sticky", 2), worth("bud.scales", 1)], []);
  const [first, second] = rows();
  expect(first).toMatch(/Scales/); // nothing moves under the finger
  expect(second).not.toMatch(/withheld/);
  await act(() => document.querySelectorAll("button")[1]?.click());
  expect(onAsk).toHaveBeenCalledWith("bud.sticky");
});

it("says what was looked at", async () => {
  await show([], [], ["bud.scales"]);
  expect(rows()).toEqual(["1Is the bud sticky viscid", "2Scales of the bud scaleslooked at"]);
});
