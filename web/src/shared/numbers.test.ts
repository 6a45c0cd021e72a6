import { expect, it } from "vitest";
import { inWords, monthsAfter } from "./dates";
import { readNumber } from "./numbers";

it.each([
  ["33.5", 33.5],
  ["33,5", 33.5],
  [" 12 ", 12],
  ["-4", -4],
  ["", null],
  ["1.2.3", null],
  ["12 cm", null],
  ["1e5", null],
])("%j is read as %s", (typed, number) => expect(readNumber(typed)).toBe(number));

it.each([
  ["2026-10-20", 12, "2027-10-20"],
  ["2026-01-31", 1, "2026-02-28"],
  ["2026-11-30", 3, "2027-02-28"],
])("%s and %i months is %s", (date, months, later) => expect(monthsAfter(date, months)).toBe(later));

it("dates are written out", () => expect(inWords("2026-11-20")).toBe("20 November 2026"));
