import { useState } from "react";
import { newId } from "@/shared/ids";
import type { BodyOf } from "@/shared/records/entries";
import { type Body, RecordForm } from "@/shared/records/RecordForm";
import type { Vocabulary } from "@/shared/records/reads";
import { Button, Check, Notice } from "@/shared/ui";
import { type Job, stepOf, useRecordWork } from "@/shared/work/siteWork";

export type Step = BodyOf<"work">["step"];
const STEPS_OF_WORK: Step[] = ["planned", "started", "completed"];

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
  const [emergency, setEmergency] = useState(false);
  const asks = vocabulary.job_steps.find((s) => s.id === step)?.asks ?? ["reason"];
  const ids = clears
    ? []
    : [...asks, ...(emergency ? vocabulary.emergency_asks : [])].filter(
        (id) => job.held_by_wires || !vocabulary.asked_of_the_held.includes(id),
      );
  const asked = clears ? fields : fields.filter((f) => ids.includes(f.id));
  const mayBeUrgent = !clears && STEPS_OF_WORK.includes(step);
  const save = () => {
    void record([job.plant], () => [
      clears
        ? { id: newId(), kind: "clearance", body: draft as unknown as BodyOf<"clearance"> }
        : stepOf({ ...(draft as object), job: job.job, rule: job.rule, step } as BodyOf<"work">),
    ]);
    onDone();
  };
  const empty = (field: string) => !String(draft[field] ?? "").trim();
  const lacking = clears
    ? empty("by")
    : ((step === "withdrawn" || step === "changed") && empty("reason")) ||
      (emergency && (empty("emergency_by") || empty("emergency_reason")));
  return (
    <div className="grid gap-3">
      {!clears && blocked && step !== "withdrawn" && (
        <Notice kind="caution">
          A check is open: the server refuses this step until it is closed, and it then waits under 'Needs
          attention'.
        </Notice>
      )}
      {mayBeUrgent && <Check label="It is an emergency" checked={emergency} onChange={setEmergency} />}
      {emergency && (
        <p className="text-sm text-soft">
          It passes name, nests, consent and owner only as far as these say; never a line, never wood under a
          hold, whoever names it.
        </p>
      )}
      <RecordForm fields={asked} value={draft} onChange={setDraft} vocabulary={vocabulary} />
      <Button weight="act" disabled={lacking} onClick={save}>
        Save
      </Button>
    </div>
  );
}
