import { describe, expect, it } from "vitest";
import { arc, point, turnOf } from "./dial";

describe("the face of a year", () => {
  it("begins at the top and turns to the right", () => {
    expect(point(50, 40, 0)).toEqual([50, 10]);
    const [x, y] = point(50, 40, 0.25);
    expect([Math.round(x), Math.round(y)]).toEqual([90, 50]);
  });

  it.each([
    ["2026-01-01", 0],
    ["2026-07-02", 182 / 365],
    ["2028-03-01", 60 / 366], // a leap year
    ["2026-12-31", 364 / 365],
  ])("puts %s at its share of its own year", (date, turn) => {
    expect(turnOf(date)).toBeCloseTo(turn, 9);
  });

  it("goes the long way round where a window is longer than half a year, and over new year", () => {
    expect(arc(50, 40, 0.1, 0.3)).toContain(" 0 0 1 ");
    expect(arc(50, 40, 0.1, 0.7)).toContain(" 0 1 1 ");
    const [end] = arc(50, 40, 0.83, 1.24).split(" ").slice(-2);
    expect(Number(end)).toBeCloseTo(point(50, 40, 0.24)[0], 1);
  });
});
