import { Link } from "react-router";
import { inWords as day } from "@/shared/dates";
import type { SiteHealth } from "./useSiteHealth";

const LATER = 5;

/** What to look for within a fortnight, and what comes next. */
export function LookFor({ health, search }: { health: SiteHealth; search: string }) {
  const rows = health.look_for;
  return (
    <section aria-label="Look for this fortnight">
      <h2 className="text-xl">Look for this fortnight</h2>
      {rows.length === 0 && (
        <p className="text-soft">Nothing begins or goes on now on the hosts of this site.</p>
      )}
      <Rows rows={rows} search={search} />
      {health.later.length > 0 && (
        <details>
          <summary className="min-h-[53px] cursor-pointer py-3 text-sm text-soft">
            Next: {health.later[0]?.name}, from {day(health.later[0]?.on ?? "")}
          </summary>
          <Rows rows={health.later.slice(0, LATER)} search={search} />
        </details>
      )}
    </section>
  );
}

function Rows({ rows, search }: { rows: SiteHealth["look_for"]; search: string }) {
  return (
    <ul className="border-t border-rule">
      {rows.map((r) => (
        <li key={`${r.agent} ${r.event}`} className="border-b border-rule py-1">
          <Link to={`/health/causes/${r.agent}${search}`} className="font-bold text-slate underline">
            {r.name}
          </Link>{" "}
          <span className="text-sm text-soft">
            {r.event === "season" ? "" : `${r.event}, `}
            {r.plants} hosts
          </span>
          <p className="text-sm">
            {r.reached && r.by === "warmth" ? "Since" : "From"} {day(r.on)}, ± {r.plus_minus_days} days
            {r.by === "table" && r.to !== r.on ? `, to ${day(r.to)}` : ""}
            <span className="text-soft">
              {r.by === "warmth"
                ? `. By warmth: ${Math.round(r.gathered_f ?? 0)} of ${r.threshold_f.join(" to ")} °F days, single sine, base 50 °F without upper cutoff, from 1 January (in the south 1 July).`
                : ". By the calendar of the place."}
            </span>
          </p>
        </li>
      ))}
    </ul>
  );
}
