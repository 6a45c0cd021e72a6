import type { Vocabulary } from "@/shared/records/reads";
import { Button, Notice } from "@/shared/ui";
import type { Job, Proposed, SiteWork } from "@/shared/work/siteWork";
import { PlanByWeek } from "./PlanByWeek";
import { isOpen, type PlanRun, usePlanning, useYearPlan, type YearPlan } from "./usePlan";
import { YearBars, type YearRow } from "./YearBars";

interface Props {
  site: string;
  found: SiteWork;
  block: string;
  on: string;
  vocabulary: Vocabulary;
  mayDecide: boolean;
}

const WEEKS = 52;

/** The year: when what may be done, what the plan has in each week, and what does not fit. */
export function YearView({ site, found, block, on, vocabulary, mayDecide }: Props) {
  const read = useYearPlan(site);
  const planning = usePlanning(site, on);
  const inBlock = <T extends { block: string }>(rows: T[]) => rows.filter((r) => !block || r.block === block);
  const { plan = null, run = null } = read.data ?? {};
  const jobs = inBlock(found.jobs);
  const proposals = inBlock(found.proposals);
  return (
    <section aria-label="The year of work" className="grid gap-5">
      <div className="flex flex-wrap items-end justify-between gap-3">
        <div>
          <h2 className="text-xl">The year of work</h2>
          <p className="text-sm text-soft">
            {plan ? planned(plan) : "No plan yet: the seasons of what is proposed."}
          </p>
        </div>
        {mayDecide && (
          <div className="flex flex-wrap items-center gap-3">
            {isOpen(run) && (
              <Button weight="warn" onClick={() => planning.mutate("cancel")}>
                Cancel the run
              </Button>
            )}
            <Button
              weight="act"
              disabled={isOpen(run) || planning.isPending || !read.data}
              onClick={() => planning.mutate("plan")}
            >
              {plan ? "Plan again" : "Plan the year"}
            </Button>
          </div>
        )}
      </div>
      {run && <Standing run={run} holds={Boolean(plan)} />}
      {(planning.error ?? read.error) && (
        <Notice kind="refused">{(planning.error ?? read.error)?.message}</Notice>
      )}
      {plan ? (
        <YearBars
          from={plan.first_week}
          weeks={plan.weeks}
          rows={rowsOfPlan(plan, block, found.jobs)}
          load={plan.load}
          on={on}
        />
      ) : (
        <YearBars from={on} weeks={WEEKS} rows={rowsOfProposals(proposals)} on={on} />
      )}
      <Columns plan={plan} block={block} jobs={jobs} proposals={proposals} />
      {plan && (
        <PlanByWeek
          site={site}
          plan={plan}
          block={block}
          jobs={found.jobs}
          on={on}
          vocabulary={vocabulary}
          mayDecide={mayDecide}
          busy={isOpen(run) || planning.isPending}
          onMove={(job, to) => planning.mutate({ job, on: to })}
        />
      )}
    </section>
  );
}

const PERCENT = 100;

/** What the plan comes to, and how near to the best it is. */
function planned(plan: YearPlan): string {
  const money = `${plan.money.spent.toLocaleString("en")} ${plan.money.currency}`.trim();
  const of = plan.money.budget === null ? "" : ` of ${plan.money.budget.toLocaleString("en")}`;
  const gap =
    plan.gap > 0 ? `at most ${(plan.gap * PERCENT).toFixed(1)} % from the best there can be` : "none better";
  return `${plan.jobs.length} jobs planned, ${plan.unplanned.length} do not fit. ${money}${of}. Found in ${plan.seconds} s, ${gap}.`;
}

function Standing({ run, holds }: { run: PlanRun; holds: boolean }) {
  if (run.state === "ready") return null;
  const stays = holds ? " The plan below is the last one." : "";
  if (isOpen(run))
    return (
      <p role="status" className="border-l-4 border-slate pl-3">
        {run.state === "waiting" ? "Waiting for a worker." : "Planning; it takes up to half a minute."}
        {run.planned !== null && ` ${run.planned} jobs have a week so far.`}
        {stays}
      </p>
    );
  const what = run.state === "cancelled" ? "The last run was cancelled." : "The last run failed; ask again.";
  return (
    <Notice kind={run.state === "failed" ? "refused" : "caution"}>
      {what}
      {stays}
    </Notice>
  );
}

/** A row for each kind of work: its seasons, and the weeks it is planned in. */
function rowsOfPlan(plan: YearPlan, block: string, jobs: Job[]): YearRow[] {
  const own = [...plan.jobs, ...plan.unplanned].filter((j) => !block || j.block === block);
  const urgent = new Set(jobs.filter((j) => j.priority <= 2).map((j) => j.job));
  return [...new Set(own.map((j) => j.title))].map((title) => {
    const of = own.filter((j) => j.title === title);
    const weeks = of.flatMap((j) => ("week" in j ? [j.week] : []));
    const hours = of.reduce((sum, j) => sum + j.hours, 0);
    const left = of.length - weeks.length;
    return {
      title,
      note: `${count(of.length, "job")}, ${Number(hours.toFixed(1))} h${left ? `, ${left} do not fit` : ""}`,
      windows: (of[0]?.windows ?? []) as [string, string][],
      weeks: [...new Set(weeks)],
      urgent: of.some((j) => urgent.has(j.job)),
    };
  });
}

const MOST_ROWS = 12;

function rowsOfProposals(proposals: Proposed[]): YearRow[] {
  const rules = [...new Set(proposals.map((p) => p.proposal.rule))].slice(0, MOST_ROWS);
  return rules.map((rule) => {
    const of = proposals.filter((p) => p.proposal.rule === rule);
    const first = of[0]?.proposal;
    return {
      title: first?.title ?? rule,
      note: `${count(of.length, "tree")}${first?.season ? "" : ", any season"}`,
      windows: first?.season ? [[first.season.begins, first.season.ends]] : [],
      weeks: [],
      urgent: (first?.priority ?? 4) <= 2,
    };
  });
}

const count = (n: number, what: string): string => `${n} ${what}${n === 1 ? "" : "s"}`;
const MOST_LINES = 6;

/** What does not fit and what would free it; what a check blocks; what nobody has decided. */
function Columns({
  plan,
  block,
  jobs,
  proposals,
}: {
  plan: YearPlan | null;
  block: string;
  jobs: Job[];
  proposals: Proposed[];
}) {
  const left = (plan?.unplanned ?? []).filter((j) => !block || j.block === block);
  const blocked = jobs.filter((j) => j.checks.some((c) => c.open));
  const rules = [...new Set(proposals.map((p) => p.proposal.title))];
  return (
    <div className="grid gap-6 md:grid-cols-3">
      <Column
        title="Does not fit"
        empty={plan ? "Every job has its week." : "Nothing is planned yet."}
        rows={left.length}
      >
        {left.slice(0, MOST_LINES).map((j) => (
          <li key={j.id}>
            <b>{j.tag || "no tag"}</b> {j.title}. {j.why}{" "}
            {j.frees && <span className="text-soft">What would free it: {j.frees}</span>}
          </li>
        ))}
      </Column>
      <Column title="Blocked" empty="No check stands open." rows={blocked.length}>
        {blocked.slice(0, MOST_LINES).map((j) => (
          <li key={j.job}>
            <b>{j.tag || "no tag"}</b> {j.title}:{" "}
            {j.checks
              .filter((c) => c.open)
              .map((c) => c.title.toLowerCase())
              .join(", ")}
            .
          </li>
        ))}
      </Column>
      <Column title="Proposed, not decided" empty="Nothing is proposed." rows={rules.length}>
        {rules.slice(0, MOST_LINES).map((title) => (
          <li key={title}>
            <b>{proposals.filter((p) => p.proposal.title === title).length}</b> {title}
          </li>
        ))}
      </Column>
    </div>
  );
}

interface ColumnProps {
  title: string;
  empty: string;
  rows: number;
  children: React.ReactNode;
}

function Column({ title, empty, rows, children }: ColumnProps) {
  return (
    <section aria-label={title} className="border-t-2 border-ink pt-2">
      <h3 className="font-bold">
        {title}
        {rows > 0 && <span className="text-soft"> ({rows})</span>}
      </h3>
      {rows === 0 ? (
        <p className="text-sm text-soft">{empty}</p>
      ) : (
        <ul className="grid gap-1 text-sm">{children}</ul>
      )}
      {rows > MOST_LINES && <p className="text-sm text-soft">and {rows - MOST_LINES} more.</p>}
    </section>
  );
}
