import { expect, it } from "vitest";
import { datesHere, ROUGH_DATES, windowHere } from "./DatesHere";

it.each([
  [{ from: "04-17", to: "04-17", error_days: 10, origin: "own" }, "17 April ± 10 days"],
  [
    { from: "02-01", to: "03-20", error_days: 25, origin: "carried" },
    "about 1 February to 20 March ± 25 days",
  ],
  [{ from: "11-15", to: "03-31", error_days: 0, origin: "law" }, "by law, 15 November to 31 March"],
] as const)("%j is said as %s", (dated, says) => expect(datesHere(dated)).toBe(says));

it("says of a window whose dates are rough that a person sets them", () => {
  const window = { from: "2026-12-01", to: "2027-01-31" };
  const told = { window, plus_minus_days: 30, rough: true, origin: "carried" } as const;
  expect(windowHere(told)).toBe(`about 1 December to 31 January ± 30 days. ${ROUGH_DATES}`);
  expect(windowHere({ window: null, plus_minus_days: 0, rough: false, origin: "" })).toBe("");
});
