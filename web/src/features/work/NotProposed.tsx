import { Link } from "react-router";
import { inWords } from "@/shared/dates";
import { grouped } from "@/shared/grouped";
import type { SiteWork } from "@/shared/work/siteWork";

const MOST = 8;

/** Proposals that a new name or another diagnosis has withdrawn, each with its reason. */
export function Withdrawn({ rows }: { rows: SiteWork["withdrawn"] }) {
  if (rows.length === 0) return null;
  return (
    <section aria-label="Withdrawn">
      <h2 className="text-xl">Withdrawn since name or diagnosis changed</h2>
      <ul className="border-t border-rule">
        {rows.slice(0, MOST).map((r) => (
          <li
            key={`${r.plant} ${r.rule}`}
            className="flex flex-wrap items-baseline gap-x-3 border-b border-rule py-1"
          >
            <Tree row={r} />
            <span className="latin">{r.name}</span>
            <span>{r.title}</span>
            <span className="text-sm text-soft">
              {inWords(r.on)}: {r.why.join("; ")}.
            </span>
          </li>
        ))}
      </ul>
      {rows.length > MOST && <p className="text-sm text-soft">and {rows.length - MOST} more.</p>}
    </section>
  );
}

/** What rules would ask for and why they do not, folded away: the same reason once, with its trees. */
export function HeldBack({ rows }: { rows: SiteWork["held_back"] }) {
  if (rows.length === 0) return null;
  const groups = grouped(rows, (r) => `${r.title}: ${r.why}`);
  return (
    <details>
      <summary className="min-h-[44px] cursor-pointer content-center text-slate underline">
        Not proposed, and why ({rows.length})
      </summary>
      <ul className="border-t border-rule">
        {[...groups].map(([said, of]) => (
          <li key={said} className="border-b border-rule py-1 text-sm">
            {said}{" "}
            {of.slice(0, MOST).map((r) => (
              <span key={r.plant} className="mr-2">
                <Tree row={r} />
              </span>
            ))}
            {of.length > MOST && <span className="text-soft">and {of.length - MOST} more</span>}
          </li>
        ))}
      </ul>
    </details>
  );
}

function Tree({ row }: { row: { plant: string; tag: string } }) {
  return (
    <Link to={`/history/${row.plant}`} className="font-bold text-slate underline">
      {row.tag || "no tag"}
    </Link>
  );
}
