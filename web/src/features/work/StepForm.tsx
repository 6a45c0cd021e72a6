import { useState } from "react";
import { newId } from "@/shared/ids";
import type { BodyOf } from "@/shared/records/entries";
import { type Body, RecordForm } from "@/shared/records/RecordForm";
import type { Vocabulary } from "@/shared/records/reads";
import { Button, Notice } from "@/shared/ui";
import { type Job, stepOf, useRecordWork } from "@/shared/work/siteWork";

export type Step = BodyOf<"work">["step"];
const ASKED: Partial<Record<Step, string[]>> = {
  planned: [
    "do",
    "begins",
    "ends",
    "earliest_on",
    "latest_on",
    "equipment",
    "cut_cm",
    "live_crown_percent",
    "clearance_m",
    "standard",
    "traffic",
    "street",
    "route",
    "crew",
    "hours",
    "cost",
    "look_again_on",
  ],
  changed: ["reason", "do", "earliest_on", "latest_on", "equipment", "street", "hours", "cost"],
  started: ["crew"],
  completed: ["result", "workmanship", "hours", "cost", "sealed_minutes"],
};

/** Open now, or asked for on the day of the work. */
export const waits = (check: Job["checks"][number]) => check.open || check.later;

interface Props {
  job: Job;
  step: Step | "clearance";
  on: string;
  vocabulary: Vocabulary;
  /** what the form begins with */
  begin?: Body;
  onDone: () => void;
}

/** The next step of a job, or a check that was closed: saved on the device first. */
export function StepForm({ job, step, on, vocabulary, begin = {}, onDone }: Props) {
  const record = useRecordWork(on);
  const clears = step === "clearance";
  const first = job.checks.find(waits)?.check;
  const blocked = job.checks.some((c) => c.open || (c.later && step !== "planned"));
  const [draft, setDraft] = useState<Body>(
    clears ? { check_closed: first ?? "C5" } : { do: job.do, ...begin },
  );
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
    : (step === "withdrawn" || step === "changed") && !String(draft["reason"] ?? "").trim();
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
