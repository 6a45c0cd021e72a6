import { addDays, format, parseISO } from "date-fns";
import { Link } from "react-router";
import type { Site } from "@/shared/records/reads";
import { useSiteWork } from "@/shared/work/siteWork";

const WEEK = 7;

/** What is due on a site within a week, what a check blocks, and what is proposed at once; nothing where none is. */
export function WorkToday({ site, on, titled }: { site: Site; on: string; titled: boolean }) {
  const work = useSiteWork(site.id, on).data;
  if (!work) return null;
  const until = format(addDays(parseISO(on), WEEK), "yyyy-MM-dd");
  const due = work.jobs.filter((j) => j.step === "started" || (j.begins && j.begins <= until));
  const blocked = due.filter((j) => j.checks.some((c) => c.open));
  const atOnce = work.proposals.filter((p) => p.proposal.priority === 1);
  const lines = [
    { n: due.length, label: "due within a week, or begun" },
    { n: blocked.length, label: "of these blocked by a check" },
    { n: atOnce.length, label: "proposed at once, not decided" },
  ].filter((l) => l.n > 0);
  if (lines.length === 0 && !work.too_many) return null;
  return (
    <section aria-label={`Work of ${site.name}`} className="mb-6 border-l-4 border-moss pl-3">
      <h2 className="text-xl">{titled ? `Work: ${site.name}` : "Work"}</h2>
      <ul>
        {lines.map(({ n, label }) => (
          <li key={label}>
            <Link
              to={`/work?site=${site.id}`}
              className="inline-flex min-h-[44px] items-center gap-2 text-slate underline"
            >
              <span className="figure text-lg">{n}</span>
              {label}
            </Link>
          </li>
        ))}
      </ul>
      {work.too_many > 0 && (
        <p className="text-sm text-soft">
          What is proposed is read block by block: the site has too many trees.
        </p>
      )}
    </section>
  );
}
