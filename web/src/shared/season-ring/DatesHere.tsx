import type { Schemas } from "@/api/client";
import { inWords } from "@/shared/dates";

type Dated = Pick<Schemas["DatedEvent"], "from" | "to" | "error_days" | "origin">;

const BY: Record<Dated["origin"], string> = {
  own: "",
  carried: "about ",
  warmth: "by warmth, ",
  law: "by law, ",
  guide: "as a rule, ",
};
const LEAP = "2000"; // any year: only day and month are shown

/** When, as far as it is known here: '17 April ± 10 days', 'about 2 May to 5 June ± 15 days'. */
export function datesHere({ from, to, error_days, origin }: Dated) {
  const first = inWords(`${LEAP}-${from}`, false);
  const span = from === to ? first : `${first} to ${inWords(`${LEAP}-${to}`, false)}`;
  return `${BY[origin]}${span}${error_days ? ` ± ${error_days} days` : ""}`;
}

export const ROUGH_DATES = "Dates are rough here: ask a person who knows the place.";

/** The window of a response with its error; where dates are rough, that a person sets them. */
export function windowHere({
  window,
  plus_minus_days,
  rough,
  origin,
}: Pick<Schemas["Response"], "window" | "plus_minus_days" | "rough" | "origin">) {
  if (!window || !origin) return "";
  const span = `${inWords(window["from"] ?? "", false)} to ${inWords(window["to"] ?? "", false)}`;
  return `${BY[origin]}${span} ± ${plus_minus_days} days.${rough ? ` ${ROUGH_DATES}` : ""}`;
}

/** The dates of a taxon at the site, each with its error, and whose calendar they are of. */
export function DatesHere({ calendar }: { calendar: Schemas["CalendarHere"] }) {
  return (
    <>
      <dl className="border-t border-rule">
        {calendar.events.map((e) => (
          <div key={e.event} className="grid grid-cols-[9rem_1fr] gap-3 border-b border-rule py-1">
            <dt className="text-sm text-soft">{e.label}</dt>
            <dd>{datesHere(e)}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-2 text-sm text-soft">
        Mean dates here, by the calendar of {calendar.region_name}.
        {calendar.events.some((e) => e.origin === "carried") &&
          " 'About': carried from where they were written for."}{" "}
        {calendar.note}
      </p>
    </>
  );
}
