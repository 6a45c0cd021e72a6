import { useState } from "react";
import { newId } from "@/shared/ids";
import type { BodyOf } from "@/shared/records/entries";
import { type Body, RecordForm } from "@/shared/records/RecordForm";
import type { Vocabulary } from "@/shared/records/reads";
import { Button, Check, Choice, Notice } from "@/shared/ui";
import { type Evidence, EvidenceForm } from "@/shared/work/EvidenceForm";
import { type Job, stepOf, useRecordWork } from "@/shared/work/siteWork";
import { useLookUps } from "./useLookUps";

export type Step = BodyOf<"work">["step"];
const STEPS_OF_WORK: Step[] = ["planned", "started", "completed"];

/** Open now, or asked for on the day of the work. */
export const waits = (check: Job["checks"][number]) => check.open || check.later;

type Scope = "tree" | "block" | "site";

interface Props {
  job: Job;
  step: Step | "clearance";
  on: string;
  vocabulary: Vocabulary;
  /** what the form begins with */
  begin?: Body;
  onDone: () => void;
}

/** The next step of a job, or evidence for a check: saved on the device first. */
export function StepForm({ job, step, ...more }: Props) {
  return step === "clearance" ? (
    <EvidenceOfJob job={job} {...more} />
  ) : (
    <StepOfJob job={job} step={step} {...more} />
  );
}

/** Evidence for what is open: of this tree, or of as many as it is true of. */
function EvidenceOfJob({ job, on, vocabulary, onDone }: Omit<Props, "step" | "begin">) {
  const record = useRecordWork(on);
  const { make, wrong } = useLookUps(undefined, on);
  const [scope, setScope] = useState<Scope>("tree");
  const kinds = job.checks.filter(waits).flatMap((c) => c.how);
  const wide = vocabulary.evidence.flatMap((e) => e.kinds.filter((k) => k.wide).map((k) => k.id));
  const save = async (evidence: Evidence) => {
    if (scope === "tree") {
      void record([job.plant], () => [{ id: newId(), kind: "clearance", body: evidence }]);
      onDone();
    } else if (await make(evidence, scope === "block" ? [job.block] : [])) onDone();
  };
  return (
    <div className="grid gap-3">
      <Choice
        label="It is true of"
        value={scope}
        options={[
          { id: "tree", label: "this tree" },
          { id: "block", label: `all trees of ${job.block_name}` },
          { id: "site", label: "all trees of the site" },
        ]}
        onChange={(id) => setScope(id as Scope)}
      />
      {scope !== "tree" && (
        <p className="text-sm text-soft">
          It covers the trees recorded up to that day, and none that is added later.
        </p>
      )}
      <EvidenceForm
        key={scope}
        vocabulary={vocabulary}
        kinds={scope === "tree" ? kinds : kinds.filter((k) => wide.includes(k))}
        onSave={(evidence) => void save(evidence)}
      />
      {wrong && <Notice kind="refused">{wrong}</Notice>}
    </div>
  );
}

function StepOfJob({ job, step, on, vocabulary, begin = {}, onDone }: Props & { step: Step }) {
  const record = useRecordWork(on);
  const blocked = job.checks.some((c) => c.open || (c.later && step !== "planned"));
  const [draft, setDraft] = useState<Body>({
    do: job.do,
    ...(step === "changed" ? { acts: job.acts.map((act) => ({ act })) } : {}),
    ...begin,
  });
  const [emergency, setEmergency] = useState(false);
  const fields = vocabulary.records.kinds.find((k) => k.id === "work")?.fields ?? [];
  const asks = vocabulary.job_steps.find((s) => s.id === step)?.asks ?? ["reason"];
  const ids = [...asks, ...(emergency ? vocabulary.emergency_asks : [])].filter(
    (id) => job.held_by_wires || !vocabulary.asked_of_the_held.includes(id),
  );
  const asked = fields.filter((f) => ids.includes(f.id));
  const save = () => {
    const body = { ...(draft as object), job: job.job, rule: job.rule, step } as BodyOf<"work">;
    void record([job.plant], () => [stepOf(body)]);
    onDone();
  };
  const empty = (field: string) => !String(draft[field] ?? "").trim();
  const lacking =
    (["withdrawn", "changed", "stopped"].includes(step) && empty("reason")) ||
    (draft["happened"] === true && (empty("though_held_by") || empty("though_why"))) ||
    (emergency && (empty("emergency_lead") || empty("emergency_reason")));
  return (
    <div className="grid gap-3">
      {blocked && STEPS_OF_WORK.includes(step) && (
        <Notice kind="caution">
          A check is open: asked for now this step is refused, and waits under 'Needs attention'. What was
          done all the same can be written down, with who and why; it is marked, and closes nothing.
        </Notice>
      )}
      {STEPS_OF_WORK.includes(step) && (
        <Check label="It is an emergency" checked={emergency} onChange={setEmergency} />
      )}
      {emergency && (
        <p className="text-sm text-soft">
          It passes name, nests, consent and owner only as far as these say; never a line, services, held
          wood, poison, people below or the crew, whoever names it.
        </p>
      )}
      <RecordForm fields={asked} value={draft} onChange={setDraft} vocabulary={vocabulary} />
      <Button weight="act" disabled={lacking} onClick={save}>
        Save
      </Button>
    </div>
  );
}
