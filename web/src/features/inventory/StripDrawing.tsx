import type { Visit } from "@/shared/records/reads";
import { useUnits } from "@/shared/site/units";

const TOP = 34;
const PX_PER_CM = 0.9;
const LABEL_PX = 84; // a date is so wide: of visits nearer together the newest is labelled

/** The stem lying down through its years: as wide as its diameter, a notch at each visit, signs marked below. */
export function StripDrawing({ visits }: { visits: Visit[] }) {
  const units = useUnits();
  const oldest = visits.filter((v) => v.mode !== "desk").reverse();
  const points = oldest.map((v) => ({
    date: v.local_date,
    dbh: diameterOf(v),
    signs: v.entries.filter((e) => e.kind === "sign" && e.stands).length,
    dead: v.entries.some((e) => e.kind === "life" && e.stands),
  }));
  const measured = points.filter((p) => p.dbh !== null);
  if (measured.length === 0) return null;
  const first = Date.parse(points[0]?.date ?? "");
  const last = Date.parse(points.at(-1)?.date ?? "");
  const x = (date: string) => 40 + (last === first ? 0.5 : (Date.parse(date) - first) / (last - first)) * 880;
  const most = Math.max(...measured.map((p) => p.dbh ?? 0));
  const scale = Math.min(PX_PER_CM, 70 / most);
  const middle = TOP + (most * scale) / 2 + 4;
  const upper = measured.map((p) => `${x(p.date)},${middle - ((p.dbh ?? 0) * scale) / 2}`);
  const lower = [...measured].reverse().map((p) => `${x(p.date)},${middle + ((p.dbh ?? 0) * scale) / 2}`);
  const height = middle + (most * scale) / 2 + 34;
  const labelled = new Set<number>();
  points.reduceRight((free, p, i) => {
    if (x(p.date) > free) return free;
    labelled.add(i);
    return x(p.date) - LABEL_PX;
  }, Number.POSITIVE_INFINITY);
  return (
    <svg
      viewBox={`0 0 960 ${height}`}
      className="w-full"
      role="img"
      aria-label={`Diameter by visit: ${measured.map((p) => `${p.date} ${units.shown(p.dbh ?? 0, "cm")}`).join(", ")}`}
    >
      <polygon
        points={[...upper, ...lower].join(" ")}
        fill="var(--color-bark)"
        fillOpacity={0.35}
        stroke="var(--color-bark)"
        strokeWidth={2}
      />
      {points.map((p, i) => (
        <g key={`${p.date} ${i}`}>
          <line
            x1={x(p.date)}
            x2={x(p.date)}
            y1={TOP - 6}
            y2={height - 26}
            stroke="var(--color-ink)"
            strokeWidth={1.5}
          />
          {labelled.has(i) && (
            <>
              <text x={x(p.date)} y={TOP - 16} textAnchor="middle" fontSize={14} fill="var(--color-ink)">
                {p.dbh === null ? "–" : units.shown(p.dbh, "cm")}
              </text>
              <text x={x(p.date)} y={height - 8} textAnchor="middle" fontSize={13} fill="var(--color-soft)">
                {p.date}
              </text>
            </>
          )}
          {p.signs > 0 && (
            <rect x={x(p.date) - 5} y={height - 34} width={10} height={10} fill="var(--color-rust)" />
          )}
          {p.dead && (
            <path
              d={`M${x(p.date) - 7} ${middle - 7} l14 14 m0 -14 l-14 14`}
              stroke="var(--color-rust)"
              strokeWidth={3}
            />
          )}
        </g>
      ))}
    </svg>
  );
}

function diameterOf(visit: Visit): number | null {
  const diameters = visit.entries.flatMap((e) =>
    e.kind === "measurement" && e.stands && e.body?.quantity === "dbh_cm" ? [e.body.value ?? null] : [],
  );
  return diameters.at(-1) ?? null;
}
