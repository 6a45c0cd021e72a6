import { expect, it } from "vitest";
import { dateIn, dayOfYear, inWords, monthName, monthsAfter, onDayOfYear, today } from "./dates";

it.each([
  ["2026-10-20", 12, "2027-10-20"],
  ["2026-01-31", 1, "2026-02-28"],
  ["2026-11-30", 3, "2027-02-28"],
])("%s and %i months is %s", (date, months, later) => expect(monthsAfter(date, months)).toBe(later));

it("dates are written out", () => expect(inWords("2026-11-20")).toBe("20 November 2026"));

it("without the year where it is clear", () => expect(inWords("2026-02-01", false)).toBe("1 February"));

it.each([
  ["2026-01-01", 1],
  ["2026-03-01", 60],
  ["2024-03-01", 61],
  ["2024-12-31", 365],
])("%s is day %i of its year", (date, day) => expect(dayOfYear(date)).toBe(day));

it("a day of the year is a date of that year, and the same day stays the date it was", () => {
  expect(onDayOfYear("2026-11-20", 1)).toBe("2026-01-01");
  expect(onDayOfYear("2024-12-31", 365)).toBe("2024-12-31");
  for (let day = 1; day <= 365; day += 13) expect(dayOfYear(onDayOfYear("2026-06-15", day))).toBe(day);
});

it("months by name", () => expect([monthName(1), monthName(12)]).toEqual(["January", "December"]));

it.each([
  ["Australia/Melbourne", "2026-12-01T13:30:00Z", "2026-12-02"],
  ["America/Los_Angeles", "2026-12-01T07:59:00Z", "2026-11-30"],
  ["Europe/London", "2026-06-30T23:30:00Z", "2026-07-01"],
  ["Europe/London", "2026-12-31T23:59:00Z", "2026-12-31"],
])("in %s at %s it is %s", (zone, moment, day) => expect(dateIn(zone, new Date(moment))).toBe(day));

it("today is the demonstration's where it fixes one", () =>
  expect(today({ today: "2026-11-20" })).toBe("2026-11-20"));
