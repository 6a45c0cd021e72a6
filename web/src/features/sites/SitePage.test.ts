import { describe, expect, it } from "vitest";
import { withUsual } from "./SitePage";

const uk = { units: "metric", breast_height_m: 1.5, protection: "bs5837" };
const au = { units: "metric", breast_height_m: 1.4, protection: "as4970" };
const vocabulary = { records: { usual_conventions: { uk, au } } } as never;

describe("the conventions of a new site", () => {
  it("follow its region, and nothing else is touched", () => {
    const before = { name: "Hill", conventions: { region: "uk", ...uk, smallest_cm: 7 } };
    const next = { ...before, conventions: { ...before.conventions, region: "au" } };
    expect(withUsual(next, before, vocabulary)).toEqual({
      name: "Hill",
      conventions: { region: "au", ...au, smallest_cm: 7 },
    });
  });

  it("stay as chosen while the region stays", () => {
    const before = { conventions: { region: "uk", ...uk } };
    const next = { name: "Hill", conventions: { region: "uk", ...uk, breast_height_m: 1.3 } };
    expect(withUsual(next, before, vocabulary)).toBe(next);
  });
});
