import { dayOfYear, inWords } from "@/shared/dates";
import type { Proposed } from "./useSiteWork";

const MONTHS = ["J", "F", "M", "A", "M", "J", "J", "A", "S", "O", "N", "D"];
const DAYS = 365;
const LABEL = 300;
const WIDE = 720;
const ROW = 34;
const MOST = 12;

/** The seasons in which what is proposed may be done, as bars through the year; the line is the day. */
export function YearOfWork({ proposals, on }: { proposals: Proposed[]; on: string }) {
  const rules = [...new Set(proposals.map((p) => p.proposal.rule))].slice(0, MOST);
  if (!rules.length) return null;
  const high = 24 + rules.length * ROW;
  const x = (day: number) => LABEL + (WIDE * (day - 1)) / DAYS;
  return (
    <section aria-label="The year of work" className="min-w-0">
      <h2 className="text-xl">The year of work</h2>
      <div className="overflow-x-auto">
        <svg
          viewBox={`0 0 ${LABEL + WIDE} ${high}`}
          className="w-full min-w-[44rem]"
          role="img"
          aria-label="Seasons of the work that is proposed"
        >
          {MONTHS.map((month, i) => (
            <g key={`${month}${i}`}>
              <line
                x1={x(1 + (i * DAYS) / 12)}
                x2={x(1 + (i * DAYS) / 12)}
                y1={18}
                y2={high}
                stroke="var(--color-rule)"
              />
              <text
                x={x(15 + (i * DAYS) / 12)}
                y={13}
                fontSize={12}
                fill="var(--color-soft)"
                textAnchor="middle"
              >
                {month}
              </text>
            </g>
          ))}
          {rules.map((rule, i) => {
            const rows = proposals.filter((p) => p.proposal.rule === rule);
            const first = rows[0]?.proposal;
            const y = 24 + i * ROW;
            return (
              <g key={rule}>
                <text x={0} y={y + 14} fontSize={13} fontWeight="bold" fill="var(--color-ink)">
                  {first?.title}
                </text>
                <text x={0} y={y + 28} fontSize={11} fill="var(--color-soft)">
                  {rows.length} {rows.length === 1 ? "tree" : "trees"}
                  {first?.season ? "" : ", any season"}
                </text>
                {bars(first?.season ?? null).map(([from, to]) => (
                  <rect
                    key={from}
                    x={x(from)}
                    y={y + 6}
                    width={Math.max(2, x(to) - x(from))}
                    height={16}
                    fill="var(--color-lichen)"
                    stroke="var(--color-moss)"
                  />
                ))}
              </g>
            );
          })}
          <line
            x1={x(dayOfYear(on))}
            x2={x(dayOfYear(on))}
            y1={18}
            y2={high}
            stroke="var(--color-ink)"
            strokeWidth={2}
          />
        </svg>
      </div>
      <p className="text-sm text-soft">The line is {inWords(on)}. A window moves with latitude and height.</p>
    </section>
  );
}

/** A season as one or two bars of the calendar year; the whole year where any season will do. */
function bars(season: Proposed["proposal"]["season"]): [number, number][] {
  if (!season) return [[1, DAYS]];
  const [from, to] = [dayOfYear(season.begins), dayOfYear(season.ends)];
  return from <= to
    ? [[from, to]]
    : [
        [1, to],
        [from, DAYS],
      ];
}
