import { useState } from "react";
import { Link } from "react-router";
import type { Block } from "@/shared/records/reads";
import { useSpread } from "./useSiteHealth";

interface Props {
  site: { id: string; name: string };
  blocks: Block[];
  cause: string;
}

const WIDE = 480;
const MOST_LISTED = 12;

/** Which plants have or had it, year by year, on the outline of the blocks. */
export function Spread({ site, blocks, cause }: Props) {
  const { data: plants } = useSpread(site.id, cause);
  const [chosen, setChosen] = useState<number | null>(null);
  if (!plants?.length) return null;
  const years = [...new Set(plants.map((p) => Number(p.first.slice(0, 4))))].sort();
  const last = years.at(-1) ?? 0;
  const year = chosen ?? last;
  const known = plants.filter((p) => Number(p.first.slice(0, 4)) <= year);
  const own = blocks.filter((b) => b.site_id === site.id);
  const map = projected(own, plants);
  return (
    <section aria-label="Through the years">
      <h2 className="text-xl">Through the years</h2>
      <p>
        {known.length} {known.length === 1 ? "plant" : "plants"} by the end of {year}.
      </p>
      {years.length > 1 && (
        <label className="flex items-center gap-3 text-sm text-soft">
          Year
          <input
            type="range"
            min={years[0]}
            max={last}
            value={year}
            aria-valuetext={`${year}, ${known.length} plants`}
            onChange={(e) => setChosen(Number(e.target.value))}
            className="min-h-[53px] flex-1 accent-moss"
          />
          <span className="tabular-nums text-ink">{year}</span>
        </label>
      )}
      {map && (
        <svg
          viewBox={`0 0 ${WIDE} ${map.high}`}
          className="w-full border border-rule bg-sheet"
          role="img"
          aria-label={`${site.name}: ${known.length} plants by ${year}`}
        >
          {map.outlines.map((o) => (
            <g key={o.name}>
              <path d={o.d} fill="none" stroke="var(--color-rule)" strokeWidth={2} />
            </g>
          ))}
          {known.map((p) => {
            const at = map.at(p.lon, p.lat);
            const old = Number(p.first.slice(0, 4)) < year;
            return (
              at && (
                <circle
                  key={p.plant}
                  cx={at[0]}
                  cy={at[1]}
                  r={4}
                  fill={old ? "var(--color-bark)" : "var(--color-rust)"}
                  stroke="var(--color-sheet)"
                />
              )
            );
          })}
        </svg>
      )}
      {map && (
        <p className="text-sm text-soft">
          <span className="text-rust">●</span> new in {year} <span className="text-bark">●</span> known before
        </p>
      )}
      <ul className="columns-2 text-sm sm:columns-3">
        {known.slice(-MOST_LISTED).map((p) => (
          <li key={p.plant}>
            <Link to={`/history/${p.plant}`} className="text-slate underline">
              {p.tag || "no tag"}
            </Link>{" "}
            {p.first.slice(0, 4)} {p.standing}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Degrees on a sheet, north up, a degree of longitude as long as it is here. */
function projected(blocks: Block[], plants: { lon: number | null; lat: number | null }[]) {
  const rings = blocks.flatMap((b) =>
    ((b.boundary as { coordinates?: number[][][] })?.coordinates ?? []).map((ring) => ({
      name: b.name,
      ring,
    })),
  );
  const points = [
    ...rings.flatMap((r) => r.ring),
    ...plants.flatMap((p) => (p.lon === null || p.lat === null ? [] : [[p.lon, p.lat]])),
  ];
  if (points.length < 2) return null;
  const [west, east] = range(points.map((p) => p[0] ?? 0));
  const [south, north] = range(points.map((p) => p[1] ?? 0));
  const squeeze = Math.cos(((north + south) / 2) * (Math.PI / 180));
  const scale = (WIDE - 20) / Math.max(1e-9, (east - west) * squeeze);
  const high = Math.min(2 * WIDE, (north - south) * scale + 20);
  const at = (lon: number | null, lat: number | null): [number, number] | null =>
    lon === null || lat === null ? null : [10 + (lon - west) * squeeze * scale, 10 + (north - lat) * scale];
  return {
    high: Math.max(60, high),
    at,
    outlines: rings.map(({ name, ring }) => ({
      name,
      d: `M${ring
        .map(([lon = 0, lat = 0]) =>
          at(lon, lat)
            ?.map((n) => n.toFixed(1))
            .join(" "),
        )
        .join("L")}Z`,
    })),
  };
}

const range = (values: number[]): [number, number] => [Math.min(...values), Math.max(...values)];
