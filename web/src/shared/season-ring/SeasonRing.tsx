import type { Schemas } from "@/api/client";
import { inWords } from "@/shared/dates";
import { arc, Hand, Months } from "./dial";

type Showing = Schemas["Showing"];
const COLOURS: Record<string, string> = {
  bark: "var(--color-bark)",
  twig: "var(--color-soft)",
  bud: "var(--color-rust)",
  leaf: "var(--color-moss)",
  flower: "var(--color-ochre)",
  fruit: "var(--color-slate)",
};

/** A year as growth rings, one per organ, shaded where it shows at this place; the hand stands at today. */
export function SeasonRing({
  rows,
  date,
  size = 220,
  named = true,
}: {
  rows: Showing[];
  date: string;
  size?: number;
  named?: boolean;
}) {
  const centre = size / 2;
  const width = (centre - 14) / (rows.length + 1);
  const now = rows.filter((r) => r.now >= 0.5).map((r) => r.label.toLowerCase());
  return (
    <svg
      width={size}
      height={size}
      viewBox={`0 0 ${size} ${size}`}
      role="img"
      aria-label={`The year on this site. Shows now: ${now.join(", ") || "bark only"}.`}
    >
      {rows.map((row, i) => {
        const radius = width * (i + 1.4);
        return row.year.map((share, half) => (
          <path
            key={`${row.organ} ${half}`}
            d={arc(centre, radius, half / 24, (half + 0.96) / 24)}
            fill="none"
            stroke={share > 0.08 ? COLOURS[row.organ] : "var(--color-rule)"}
            strokeOpacity={share > 0.08 ? 0.25 + 0.75 * share : 0.6}
            strokeWidth={share > 0.08 ? width * 0.78 : 1}
          />
        ));
      })}
      <Hand centre={centre} date={date} />
      {named && <Months centre={centre} />}
    </svg>
  );
}

/** Beside the ring: each of its rings from the middle outwards, with its colour, its name, and what it is doing now. */
export function SeasonLegend({ rows }: { rows: Showing[] }) {
  return (
    <ol className="mt-3 text-base" aria-label="Rings from the middle outwards">
      {rows.map((row, i) => (
        <li key={row.organ} className="flex items-center gap-2 border-b border-rule py-1">
          <span className="w-4 text-right tabular-nums" aria-hidden="true">
            {i + 1}
          </span>
          <svg width={18} height={18} aria-hidden="true">
            <rect width={18} height={18} fill={COLOURS[row.organ]} />
          </svg>
          <span className={`flex-1 ${row.now >= 0.5 ? "font-bold" : ""}`}>{row.label}</span>
          <span>
            {row.now >= 0.5 ? "shows" : row.opens ? `from ${inWords(row.opens, false)}` : "not this year"}
          </span>
        </li>
      ))}
    </ol>
  );
}
