import { addDays, differenceInCalendarDays, format, parseISO, startOfMonth } from "date-fns";
import { inWords } from "@/shared/dates";
import type { YearPlan } from "./usePlan";

export interface YearRow {
  title: string;
  note: string;
  /** days on which it may be done; none: any */
  windows: [string, string][];
  /** Mondays of the weeks it is planned in */
  weeks: string[];
  urgent: boolean;
}

interface Props {
  from: string;
  weeks: number;
  rows: YearRow[];
  load?: YearPlan["load"];
  on: string;
}

const LABEL = 290;
const WIDE = 740;
const ROW = 38;
const TOP = 24;
const LOAD = 74;

/** A year from a week on: seasons as bars, planned weeks in them, hours of the crews below. */
export function YearBars({ from, weeks, rows, load, on }: Props) {
  const first = parseISO(from);
  const days = weeks * 7;
  const x = (date: string) =>
    LABEL + (WIDE * Math.min(days, Math.max(0, differenceInCalendarDays(parseISO(date), first)))) / days;
  const end = format(addDays(first, days), "yyyy-MM-dd");
  const bottom = TOP + rows.length * ROW;
  const high = bottom + (load?.length ? LOAD + 8 : 0);
  const line = x(on);
  return (
    <div className="overflow-x-auto">
      <svg
        viewBox={`0 0 ${LABEL + WIDE} ${high + 16}`}
        className="w-full min-w-[46rem]"
        role="img"
        aria-label={`Seasons of the work${load?.length ? ", weeks it is planned in, and hours of the crews" : ""}`}
      >
        {monthsFrom(first, days).map(([date, letter]) => (
          <g key={date}>
            <line x1={x(date)} x2={x(date)} y1={14} y2={high} stroke="var(--color-rule)" />
            <text x={x(date) + 6} y={13} fontSize={12} fill="var(--color-soft)">
              {letter}
            </text>
          </g>
        ))}
        {rows.map((row, i) => {
          const y = TOP + i * ROW;
          const spans = row.windows.length ? row.windows : [[from, end] as [string, string]];
          return (
            <g key={row.title}>
              <line x1={0} x2={LABEL + WIDE} y1={y} y2={y} stroke="var(--color-rule)" />
              <text
                x={0}
                y={y + 16}
                fontSize={13}
                fontWeight="bold"
                fill={row.urgent ? "var(--color-rust)" : "var(--color-ink)"}
              >
                {short(row.title)}
              </text>
              <text x={0} y={y + 31} fontSize={11.5} fill="var(--color-soft)">
                {row.note}
              </text>
              {spans.map(([a, b]) => (
                <rect
                  key={a}
                  x={x(a)}
                  y={y + 9}
                  width={Math.max(0, x(b) - x(a))}
                  height={20}
                  fill="var(--color-lichen)"
                />
              ))}
              {row.weeks.map((week) => (
                <rect
                  key={week}
                  x={x(week)}
                  y={y + 13}
                  width={(WIDE / weeks) * 0.9}
                  height={12}
                  fill="var(--color-moss)"
                />
              ))}
            </g>
          );
        })}
        {load && load.length > 0 && <CrewLoad load={load} x={x} width={WIDE / weeks} y={bottom} />}
        <line x1={line} x2={line} y1={TOP} y2={high} stroke="var(--color-ink)" strokeWidth={2} />
        <text x={Math.min(line, LABEL + WIDE - 70)} y={high + 13} fontSize={11.5} fill="var(--color-ink)">
          {inWords(on, false)}
        </text>
      </svg>
    </div>
  );
}

interface LoadProps {
  load: YearPlan["load"];
  x: (date: string) => number;
  width: number;
  y: number;
}

/** Hours of all crews, week by week, under the line of what they have. */
function CrewLoad({ load, x, width, y }: LoadProps) {
  const weeks = [...new Set(load.map((l) => l.week))];
  const sum = (week: string, of: "hours" | "capacity") =>
    load.filter((l) => l.week === week).reduce((total, l) => total + l[of], 0);
  const most = Math.max(1, ...weeks.map((w) => Math.max(sum(w, "hours"), sum(w, "capacity"))));
  const base = y + LOAD;
  const up = (hours: number) => (hours / most) * (LOAD - 14);
  const total = weeks.reduce((all, w) => all + sum(w, "hours"), 0);
  return (
    <g>
      <line x1={0} x2={LABEL + WIDE} y1={y} y2={y} stroke="var(--color-ink)" strokeWidth={2} />
      <text x={0} y={y + 22} fontSize={13} fontWeight="bold" fill="var(--color-ink)">
        Crew hours a week
      </text>
      <text x={0} y={y + 38} fontSize={11.5} fill="var(--color-soft)">
        {Math.round(total)} h planned; the line is what the crews have
      </text>
      {weeks.map((week) => {
        const [hours, there] = [sum(week, "hours"), sum(week, "capacity")];
        return (
          <g key={week}>
            <rect
              x={x(week) + 1}
              y={base - up(hours)}
              width={Math.max(1, width - 2)}
              height={up(hours)}
              fill={hours > there + 0.01 ? "var(--color-rust)" : "var(--color-bark)"}
            >
              <title>{`Week of ${inWords(week)}: ${hours.toFixed(1)} of ${there.toFixed(1)} h`}</title>
            </rect>
            <line
              x1={x(week)}
              x2={x(week) + width}
              y1={base - up(there)}
              y2={base - up(there)}
              stroke="var(--color-ink)"
              strokeDasharray="3 2"
            />
          </g>
        );
      })}
    </g>
  );
}

const MOST_LETTERS = 42;
const short = (title: string): string =>
  title.length > MOST_LETTERS ? `${title.slice(0, MOST_LETTERS - 1)}…` : title;

/** The first day of each month, with its letter; the year where a new one begins. */
function monthsFrom(first: Date, days: number): [string, string][] {
  const found: [string, string][] = [];
  const last = addDays(first, days);
  for (let at = startOfMonth(addDays(first, 31)); at < last; at = startOfMonth(addDays(at, 31)))
    found.push([format(at, "yyyy-MM-dd"), format(at, at.getMonth() ? "MMM" : "MMM yyyy")]);
  return found;
}
