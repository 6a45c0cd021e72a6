import { addMonths, format, getDayOfYear, parseISO, setDayOfYear } from "date-fns";

const DAY = "yyyy-MM-dd";
const DAYS_A_YEAR = 365;

/** The device's local date as YYYY-MM-DD. */
export const localDate = (at = new Date()): string => format(at, DAY);

/** The date somewhere, by its IANA time zone, as YYYY-MM-DD. */
export const dateIn = (timeZone: string, at = new Date()): string => {
  const parts = new Intl.DateTimeFormat("en", {
    timeZone,
    year: "numeric",
    month: "2-digit",
    day: "2-digit",
  }).formatToParts(at);
  const part = (type: string) => parts.find((p) => p.type === type)?.value ?? "";
  return `${part("year")}-${part("month")}-${part("day")}`;
};

/** Today as the demonstration fixes it, else the day it is at the site; where there is none, the device's own. */
export const today = (member?: { today: string } | null, site?: { time_zone: string } | undefined): string =>
  member?.today || (site?.time_zone ? dateIn(site.time_zone) : localDate());

/** 2026-11-20 as '20 November 2026'. */
export const inWords = (date: string, withYear = true): string =>
  format(parseISO(date), withYear ? "d MMMM yyyy" : "d MMMM");

/** The date so many months later; where the month has no such day, its last. */
export const monthsAfter = (date: string, months: number): string =>
  format(addMonths(parseISO(date), months), DAY);

/** The day of the year, 1 to 365: 31 December of a leap year counts with the day before. */
export const dayOfYear = (date: string): number => Math.min(DAYS_A_YEAR, getDayOfYear(parseISO(date)));

/** The date of another day of the same year. */
export const onDayOfYear = (date: string, day: number): string =>
  day === dayOfYear(date) ? date : format(setDayOfYear(parseISO(date), day), DAY);

/** The month's name, 1 to 12. */
export const monthName = (month: number): string => format(new Date(2000, month - 1, 1), "MMMM");
