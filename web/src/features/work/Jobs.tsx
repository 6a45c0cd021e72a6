import { useState } from "react";
import { Link } from "react-router";
import { inWords as day } from "@/shared/dates";
import { newId } from "@/shared/ids";
import type { BodyOf } from "@/shared/records/entries";
import { type Body, RecordForm } from "@/shared/records/RecordForm";
import type { Vocabulary } from "@/shared/records/reads";
import { Button, Dialog, Notice } from "@/shared/ui";
import { type Job, stepOf, useRecordWork } from "./useSiteWork";

type Step = BodyOf<"work">["step"];
const NEXT: Partial<Record<Step, { step: Step; label: string }>> = {
  accepted: { step: "planned", label: "Plan it" },
  planned: { step: "started", label: "Start it" },
  started: { step: "completed", label: "Complete it" },
};
const ASKED: Partial<Record<Step, string[]>> = {
  planned: [
    "do",
    "begins",
    "ends",
    "equipment",
    "cut_cm",
    "live_crown_percent",
    "route",
    "crew",
    "hours",
    "cost",
  ],
  started: ["crew"],
  completed: ["result", "workmanship", "hours", "cost", "sealed_minutes"],
};

/** Open now, or asked for on the day of the work. */
const waits = (check: Job["checks"][number]) => check.open || check.later;

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
          const next = NEXT[j.step as Step];
          const waiting = j.checks.filter(waits);
          return (
            <li key={j.job} className="grid gap-1 border-b border-rule py-2">
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
              {j.unfounded && (
                <Notice kind="caution">
                  The file no longer proposes this: a name, a diagnosis or a figure has changed. Look again
                  before it goes on.
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
              {mayDecide && (
                <p className="flex flex-wrap gap-2">
                  {waiting.length > 0 && (
                    <Button onClick={() => setOpen({ job: j, step: "clearance" })}>Close a check</Button>
                  )}
                  {next && (
                    <Button
                      weight={waiting.length ? "plain" : "act"}
                      aria-label={`${next.label}: ${j.title} of ${j.tag}`}
                      onClick={() => setOpen({ job: j, step: next.step })}
                    >
                      {next.label}
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

interface FormProps {
  job: Job;
  step: Step | "clearance";
  on: string;
  vocabulary: Vocabulary;
  onDone: () => void;
}

function StepForm({ job, step, on, vocabulary, onDone }: FormProps) {
  const record = useRecordWork(on);
  const clears = step === "clearance";
  const first = job.checks.find(waits)?.check;
  const blocked = job.checks.some((c) => c.open || (c.later && step !== "planned"));
  const [draft, setDraft] = useState<Body>(clears ? { check_closed: first ?? "C5" } : { do: job.do });
  const fields = vocabulary.records.kinds.find((k) => k.id === (clears ? "clearance" : "work"))?.fields ?? [];
  const asked = clears ? fields : fields.filter((f) => (ASKED[step] ?? ["reason"]).includes(f.id));
  const save = () => {
    void record([job.plant], () => [
      clears
        ? { id: newId(), kind: "clearance", body: draft as unknown as BodyOf<"clearance"> }
        : stepOf({ ...(draft as object), job: job.job, rule: job.rule, step } as BodyOf<"work">),
    ]);
    onDone();
  };
  const lacking = clears
    ? !String(draft["by"] ?? "").trim()
    : step === "withdrawn" && !String(draft["reason"] ?? "").trim();
  return (
    <div className="grid gap-3">
      {!clears && blocked && step !== "withdrawn" && (
        <Notice kind="caution">
          A check is open: the server refuses this step until it is closed, and it then waits under 'Needs
          attention'.
        </Notice>
      )}
      <RecordForm fields={asked} value={draft} onChange={setDraft} vocabulary={vocabulary} />
      <Button weight="act" disabled={lacking} onClick={save}>
        Save
      </Button>
    </div>
  );
}
