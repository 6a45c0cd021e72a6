import { addMonths, format, getDayOfYear, parseISO, setDayOfYear } from "date-fns";

const DAY = "yyyy-MM-dd";
const DAYS_A_YEAR = 365;

/** The device's local date as YYYY-MM-DD. */
export const localDate = (at = new Date()): string => format(at, DAY);

/** Today as the demonstration fixes it, else the device's own day. */
export const today = (member?: { today: string } | null): string => member?.today || localDate();

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
