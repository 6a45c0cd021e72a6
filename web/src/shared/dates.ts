/** The device's local date as YYYY-MM-DD. */
export function localDate(at = new Date()): string {
  const month = String(at.getMonth() + 1).padStart(2, "0");
  return `${at.getFullYear()}-${month}-${String(at.getDate()).padStart(2, "0")}`;
}

/** Today as the demonstration fixes it, else the device's own day. */
export function today(member?: { today: string } | null): string {
  return member?.today || localDate();
}

const MONTHS = [
  "January",
  "February",
  "March",
  "April",
  "May",
  "June",
  "July",
  "August",
  "September",
  "October",
  "November",
  "December",
];

/** 2026-11-20 as '20 November 2026'. */
export function inWords(date: string, withYear = true): string {
  const [year, month, day] = date.split("-").map(Number);
  return `${day} ${MONTHS[(month ?? 1) - 1]}${withYear ? ` ${year}` : ""}`;
}

/** The date so many months later; the last days of a month become the 28th. */
export function monthsAfter(date: string, months: number): string {
  const [year, month, day] = date.split("-").map(Number) as [number, number, number];
  const at = new Date(Date.UTC(year, month - 1 + months, Math.min(day, 28)));
  return at.toISOString().slice(0, 10);
}
