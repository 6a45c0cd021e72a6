import { addDays, format, parseISO } from "date-fns";
import { useState } from "react";
import { Link } from "react-router";
import { inWords } from "@/shared/dates";
import type { Vocabulary } from "@/shared/records/reads";
import { Button, Dialog, Field } from "@/shared/ui";
import type { Job } from "@/shared/work/siteWork";
import { StepForm } from "./StepForm";
import { fileOf, type Planned, type YearPlan } from "./usePlan";

interface Props {
  site: string;
  plan: YearPlan;
  block: string;
  jobs: Job[];
  on: string;
  vocabulary: Vocabulary;
  mayDecide: boolean;
  /** a run is on its way */
  busy: boolean;
  onMove: (job: string, to: string | null) => void;
}

const MOST_WEEKS = 6;
const FRIDAY = 4;
const STAYS = { "": "", promised: "promised", moved: "put here by hand" };

/** The plan week by week: each job with its crew; promised to people, or moved by hand. */
export function PlanByWeek({ site, plan, block, jobs, on, vocabulary, mayDecide, busy, onMove }: Props) {
  const [all, setAll] = useState(false);
  const [open, setOpen] = useState<{ row: Planned; act: "promise" | "move" } | null>(null);
  const [to, setTo] = useState("");
  const own = plan.jobs.filter((j) => !block || j.block === block);
  const weeks = [...new Set(own.map((j) => j.week))];
  const shown = all ? weeks : weeks.slice(0, MOST_WEEKS);
  const job = jobs.find((j) => j.job === open?.row.job);
  return (
    <section aria-label="Week by week">
      <h3 className="text-lg">Week by week</h3>
      {weeks.length === 0 && <p>Nothing is planned here.</p>}
      {shown.map((week) => {
        const rows = own.filter((j) => j.week === week);
        const closed = plan.closures.filter((c) => c.week === week).map((c) => c.street);
        return (
          <div key={week} className="border-t border-ink pt-2 pb-3">
            <p className="flex flex-wrap items-baseline gap-x-4">
              <b>Week of {inWords(week)}</b>
              <span className="text-sm text-soft">
                {rows.length} {rows.length === 1 ? "job" : "jobs"},{" "}
                {Number(rows.reduce((sum, r) => sum + r.hours, 0).toFixed(1))} h
                {closed.length > 0 && `; closed: ${closed.join(", ")}`}
              </span>
              <a
                className="target inline-flex items-center text-sm text-slate underline"
                href={fileOf(site, "sheets.pdf", on, [...new Set(rows.map((r) => r.job))])}
              >
                Work sheets
              </a>
            </p>
            <ul>
              {rows.map((row) => (
                <li key={row.id} className="flex flex-wrap items-center gap-x-3 border-t border-rule py-1">
                  <Link
                    to={`/history/${row.plant}`}
                    className="target inline-flex items-center font-bold text-slate underline"
                  >
                    {row.tag || "no tag"}
                  </Link>
                  <span className="latin">{row.name}</span>
                  <span>{row.title}</span>
                  <span className="min-w-[12rem] flex-1 text-sm text-soft">
                    {row.block_name}, {row.crew}, {row.hours} h{row.carried_over && ", carried over"}
                    {row.stays && `, ${STAYS[row.stays]}`}
                  </span>
                  {mayDecide && row.id === row.job && (
                    <>
                      {(row.step === "accepted" || row.step === "changed") && (
                        <Button
                          aria-label={`Promise ${row.title} of ${row.tag}`}
                          onClick={() => setOpen({ row, act: "promise" })}
                        >
                          Promise
                        </Button>
                      )}
                      {row.stays !== "promised" && row.step !== "started" && (
                        <Button
                          weight="quiet"
                          aria-label={`Move ${row.title} of ${row.tag}`}
                          onClick={() => {
                            setTo(row.week);
                            setOpen({ row, act: "move" });
                          }}
                        >
                          Move
                        </Button>
                      )}
                    </>
                  )}
                </li>
              ))}
            </ul>
          </div>
        );
      })}
      {weeks.length > MOST_WEEKS && (
        <Button weight="quiet" onClick={() => setAll(!all)}>
          {all ? "Fewer weeks" : `All ${weeks.length} weeks with work`}
        </Button>
      )}
      <Dialog
        open={open !== null}
        onOpenChange={() => setOpen(null)}
        title={open ? `${open.row.title}, ${open.row.tag}` : ""}
      >
        {open?.act === "promise" && job && (
          <StepForm
            job={job}
            step="planned"
            on={on}
            vocabulary={vocabulary}
            begin={{
              begins: open.row.week < on ? on : open.row.week,
              ends: format(addDays(parseISO(open.row.week), FRIDAY), "yyyy-MM-dd"),
              crew: open.row.crew,
              hours: open.row.hours,
            }}
            onDone={() => setOpen(null)}
          />
        )}
        {open?.act === "move" && (
          <div className="grid gap-3">
            <Field
              label="Into the week of"
              type="date"
              min={on}
              value={to}
              onChange={(e) => setTo(e.target.value)}
              hint="The plan is made again round it; what was promised stays."
            />
            <Button
              weight="act"
              disabled={!to || busy}
              onClick={() => {
                onMove(open.row.job, to);
                setOpen(null);
              }}
            >
              Move it and plan again
            </Button>
            {open.row.stays === "moved" && (
              <Button
                disabled={busy}
                onClick={() => {
                  onMove(open.row.job, null);
                  setOpen(null);
                }}
              >
                Give it back to the plan
              </Button>
            )}
          </div>
        )}
      </Dialog>
    </section>
  );
}
