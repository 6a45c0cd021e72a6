import { useState } from "react";
import { Link } from "react-router";
import { inWords as day } from "@/shared/dates";
import type { Vocabulary } from "@/shared/records/reads";
import { Button, Dialog, Notice } from "@/shared/ui";
import type { Job } from "@/shared/work/siteWork";
import { type Step, StepForm, waits } from "./StepForm";

interface Props {
  jobs: Job[];
  on: string;
  vocabulary: Vocabulary;
  mayDecide: boolean;
}

/** Jobs that are not over: what blocks each, who closes it, and its next step. */
export function Jobs({ jobs, on, vocabulary, mayDecide }: Props) {
  const [open, setOpen] = useState<{ job: Job; step: Step | "clearance" } | null>(null);
  return (
    <section aria-label="Jobs">
      <h2 className="text-xl">Jobs</h2>
      <ul className="border-t-2 border-ink">
        {jobs.map((j) => {
          const next = vocabulary.job_steps.find((s) => s.after.includes(j.step));
          const waiting = j.checks.filter(waits);
          return (
            <li
              key={j.job}
              className="grid gap-x-6 gap-y-1 border-b border-rule py-2 md:grid-cols-[1fr_auto]"
            >
              <div className="grid content-start gap-1">
                <p className="flex flex-wrap items-baseline gap-x-3">
                  <Link to={`/history/${j.plant}`} className="font-bold text-slate underline">
                    {j.tag || "no tag"}
                  </Link>
                  <span className="latin">{j.name}</span>
                  <b>{j.title}</b>
                  <span className="text-sm text-soft">
                    {j.block_name}, {j.step}
                    {j.begins && `, ${day(j.begins)}`}
                  </span>
                </p>
                <p className="text-sm">{j.do}</p>
                {j.twice && (
                  <p className="text-sm text-rust">
                    The same is open twice on this tree: withdraw one of them.
                  </p>
                )}
                {j.held_by_wires && (
                  <p className="text-sm">
                    <b className="text-rust">Held by wires.</b> Keep people out and call the operator of the
                    line; nothing else is done until it is clear of the tree.
                  </p>
                )}
                {j.unfounded && (
                  <Notice kind="caution">
                    The file no longer proposes this
                    {j.unfounded_why.length > 0 && ` (${j.unfounded_why.join("; ")})`}. Look again before it
                    goes on.
                  </Notice>
                )}
                {waiting.map((c) => (
                  <p key={c.check} className="text-sm">
                    <b className={c.open ? "text-rust" : ""}>
                      {c.title}, {c.open ? "open" : "later"}.
                    </b>{" "}
                    {c.why}
                  </p>
                ))}
              </div>
              {mayDecide && (
                <p className="flex flex-wrap content-start gap-2">
                  {waiting.length > 0 && (
                    <Button onClick={() => setOpen({ job: j, step: "clearance" })}>Close a check</Button>
                  )}
                  {next && (
                    <Button
                      weight={waiting.length ? "plain" : "act"}
                      aria-label={`${next.label}: ${j.title} of ${j.tag}`}
                      onClick={() => setOpen({ job: j, step: next.id as Step })}
                    >
                      {next.label}
                    </Button>
                  )}
                  {j.step !== "started" && (
                    <Button
                      weight="quiet"
                      aria-label={`Change ${j.title} of ${j.tag}`}
                      onClick={() => setOpen({ job: j, step: "changed" })}
                    >
                      Change
                    </Button>
                  )}
                  <Button weight="quiet" onClick={() => setOpen({ job: j, step: "withdrawn" })}>
                    Withdraw
                  </Button>
                </p>
              )}
            </li>
          );
        })}
      </ul>
      <Dialog
        open={open !== null}
        onOpenChange={() => setOpen(null)}
        title={open ? `${open.job.title}, ${open.job.tag}` : ""}
      >
        {open && (
          <StepForm
            job={open.job}
            step={open.step}
            on={on}
            vocabulary={vocabulary}
            onDone={() => setOpen(null)}
          />
        )}
      </Dialog>
    </section>
  );
}
