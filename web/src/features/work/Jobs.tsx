import { useState } from "react";
import { Link } from "react-router";
import { inWords as day } from "@/shared/dates";
import type { Vocabulary } from "@/shared/records/reads";
import { Button, Choice, Dialog, Notice, Select } from "@/shared/ui";
import { CheckRows } from "@/shared/work/CheckRows";
import type { Job } from "@/shared/work/siteWork";
import { type Step, StepForm } from "./StepForm";
import { firstView, isBlocked, jobsIn, VIEWS, type View, waitedFor } from "./standing";

interface Props {
  jobs: Job[];
  on: string;
  vocabulary: Vocabulary;
  mayDecide: boolean;
}

type Asked = { job: Job; step: Step | "clearance" };
const AT_ONCE = 20;

/** Jobs that are not over: the dangerous, the due, the blocked and by whom; each with its acts and their checks. */
export function Jobs({ jobs, on, vocabulary, mayDecide }: Props) {
  const [asked, setAsked] = useState<Asked | null>(null);
  const [chosen, setChosen] = useState<View | null>(null);
  const [who, setWho] = useState("");
  const [opened, setOpened] = useState<string | null>(null);
  const [most, setMost] = useState(AT_ONCE);
  const view = chosen ?? firstView(jobs, on);
  const found = jobsIn(view, jobs, on, who);
  return (
    <section aria-label="Jobs" className="grid gap-3">
      <h2 className="text-xl">Jobs</h2>
      <div className="flex flex-wrap items-end gap-4">
        <Choice
          label="Which jobs"
          hideLabel
          value={view}
          options={VIEWS.map((v) => ({ id: v.id, label: `${v.label} ${jobsIn(v.id, jobs, on).length}` }))}
          onChange={(id) => {
            setChosen(id as View);
            setWho("");
            setMost(AT_ONCE);
          }}
        />
        {view === "blocked" && (
          <Select label="By whom" value={who} onChange={(e) => setWho(e.target.value)}>
            <option value="">anybody</option>
            {waitedFor(jobs).map((w) => (
              <option key={w.who} value={w.who}>
                {w.who} ({w.jobs})
              </option>
            ))}
          </Select>
        )}
      </div>
      {found.length === 0 && <p>No job of this kind on this day.</p>}
      <ul className="border-t-2 border-ink">
        {found.slice(0, most).map((job) => (
          <JobRow
            key={job.job}
            job={job}
            open={opened === job.job}
            onOpen={() => setOpened(opened === job.job ? null : job.job)}
            vocabulary={vocabulary}
            mayDecide={mayDecide}
            onAsk={(step) => setAsked({ job, step })}
          />
        ))}
      </ul>
      {found.length > most && (
        <Button className="justify-self-start" onClick={() => setMost(most + AT_ONCE)}>
          Show more, {found.length - most} are left
        </Button>
      )}
      <Dialog
        open={asked !== null}
        onOpenChange={() => setAsked(null)}
        title={asked ? `${asked.job.title}, ${asked.job.tag}` : ""}
      >
        {asked && (
          <StepForm
            job={asked.job}
            step={asked.step}
            on={on}
            vocabulary={vocabulary}
            onDone={() => setAsked(null)}
          />
        )}
      </Dialog>
    </section>
  );
}

interface RowProps {
  job: Job;
  open: boolean;
  onOpen: () => void;
  vocabulary: Vocabulary;
  mayDecide: boolean;
  onAsk: (step: Asked["step"]) => void;
}

function JobRow({ job: j, open, onOpen, vocabulary, mayDecide, onAsk }: RowProps) {
  const next = vocabulary.job_steps.find((s) => s.after.includes(j.step));
  const waiting = j.checks.filter((c) => c.open);
  return (
    <li className="grid gap-x-6 gap-y-1 border-b border-rule py-2 md:grid-cols-[1fr_auto]">
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
        <Dangers job={j} />
        <button
          type="button"
          aria-expanded={open}
          aria-label={`Acts and checks of ${j.title} of ${j.tag}`}
          onClick={onOpen}
          className="target justify-self-start text-left text-sm text-slate underline"
        >
          {isBlocked(j)
            ? `Open: ${waiting.map((c) => c.title).join(", ")}`
            : "Every check is closed or comes with the day"}
        </button>
        {open && (
          <>
            <p className="text-sm">{j.do}</p>
            <CheckRows acts={j.acts} checks={j.checks} vocabulary={vocabulary} />
          </>
        )}
      </div>
      {mayDecide && (
        <p className="flex flex-wrap content-start gap-2">
          {j.checks.some((c) => c.open || c.later) && (
            <Button aria-label={`Close a check of ${j.title} of ${j.tag}`} onClick={() => onAsk("clearance")}>
              Close a check
            </Button>
          )}
          {next && (
            <Button
              weight={waiting.length ? "plain" : "act"}
              aria-label={`${next.label}: ${j.title} of ${j.tag}`}
              onClick={() => onAsk(next.id as Step)}
            >
              {next.label}
            </Button>
          )}
          {j.step === "started" && (
            <Button aria-label={`Start the day: ${j.title} of ${j.tag}`} onClick={() => onAsk("started")}>
              Start the day
            </Button>
          )}
          {j.step === "started" && (
            <Button weight="warn" aria-label={`Stop ${j.title} of ${j.tag}`} onClick={() => onAsk("stopped")}>
              Stop it
            </Button>
          )}
          <Button
            weight="quiet"
            aria-label={`Change ${j.title} of ${j.tag}`}
            onClick={() => onAsk("changed")}
          >
            Change
          </Button>
          <Button weight="quiet" onClick={() => onAsk("withdrawn")}>
            Withdraw
          </Button>
        </p>
      )}
    </li>
  );
}

/** What of a job cannot wait, or was done all the same. */
function Dangers({ job: j }: { job: Job }) {
  return (
    <>
      {j.stop && (
        <Notice kind="refused" title="Stop the work:">
          a nest or roost in use was found. No more is cut than leaves tree and target safe; tell the wildlife
          authority the same day.
        </Notice>
      )}
      {j.held_by_wires && (
        <p className="text-sm">
          <b className="text-rust">Held by wires.</b> Keep people out and call the operator of the line;
          nothing else is done until it is clear of the tree.
        </p>
      )}
      {j.though.length > 0 && (
        <Notice kind="caution" title="Begun or done all the same:">
          {j.though.join(" ")}
        </Notice>
      )}
      {j.twice && (
        <p className="text-sm text-rust">The same is open twice on this tree: withdraw one of them.</p>
      )}
      {j.asks.map((said) => (
        <p key={said} className="text-sm text-rust">
          {said}
        </p>
      ))}
      {j.unfounded && (
        <Notice kind="caution">
          The file no longer proposes this
          {j.unfounded_why.length > 0 && ` (${j.unfounded_why.join("; ")})`}. Look again before it goes on.
        </Notice>
      )}
    </>
  );
}
