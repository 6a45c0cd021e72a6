import { newId } from "@/shared/ids";
import { type BodyOf, type EntryOf, entriesOf, withEdited, withoutEntry } from "@/shared/records/entries";
import { type Body, RecordForm } from "@/shared/records/RecordForm";
import { useVocabulary } from "@/shared/records/reads";
import { type TreeJob, useTreeFile } from "@/shared/tree-file";
import { Choice, Notice } from "@/shared/ui";
import { stepInVisit } from "@/shared/work/stepInVisit";
import { FileButton } from "./FileButton";
import type { StepProps } from "./stepProps";
import { useAddPhotographs } from "./useAddPhotographs";

type Step = BodyOf<"work">["step"];
const NONE = "nothing";
const STEPS = [
  { id: "started", label: "started" },
  { id: "completed", label: "completed" },
  { id: NONE, label: "nothing" },
];

/** The jobs of the tree one stands at: started or completed here, offline too, with what was found and pictures. */
export function JobsHere({ draft, change }: Pick<StepProps, "draft" | "change">) {
  const { file, unknown } = useTreeFile(draft.plant);
  const vocabulary = useVocabulary().data;
  const { add, reading, wrong } = useAddPhotographs(change);
  const open = (file?.jobs ?? []).filter((j) => !j.is_over);
  if (unknown)
    return (
      <Notice kind="caution">
        Which work is open on this tree is not known here until the core is on this device, or there is a
        network.
      </Notice>
    );
  if (open.length === 0 || !vocabulary) return null;
  const fields = vocabulary.records.kinds.find((k) => k.id === "work")?.fields ?? [];
  const asked = (step: Step) =>
    (vocabulary.job_steps.find((s) => s.id === step)?.asks ?? []).filter(
      (id) => file?.wires || !vocabulary.asked_of_the_held.includes(id),
    );
  const put = (job: TreeJob, body: Partial<BodyOf<"work">>) =>
    void change((now) => {
      const shown = stepInVisit(draft.entries, job.job);
      const before = shown ?? stepInVisit(now.entries, job.job);
      const blank = { job: job.job, rule: job.rule, step: "completed" as Step };
      const entry: EntryOf<"work"> = {
        id: before?.id ?? newId(),
        kind: "work",
        body: { ...blank, ...before?.body, ...body },
      };
      return { entries: withEdited(now.entries, draft.entries, entry) };
    });
  // with the step go its photographs: they would show what is not recorded
  const takeOff = (id: string) =>
    void change((now) => {
      const pictures = entriesOf(now, "photo").filter((p) => p.body.shows === id);
      const gone = new Set(pictures.map((p) => p.id));
      return {
        entries: withoutEntry(now.entries, id).filter((e) => !gone.has(e.id)),
        pictures: now.pictures.filter((p) => !gone.has(p.id)),
      };
    });
  return (
    <section aria-label="Work on this tree" className="grid gap-3">
      <h2 className="text-xl">Work on this tree</h2>
      {open.map((job) => {
        const step = stepInVisit(draft.entries, job.job);
        const pictures = step ? entriesOf(draft, "photo").filter((p) => p.body.shows === step.id).length : 0;
        return (
          <div key={job.job} className="grid gap-3 border-t border-rule pt-2">
            <p>
              <b>{vocabulary.work_rules.find((r) => r.id === job.rule)?.label ?? job.rule}</b>{" "}
              <span className="text-soft">{[job.step, job.begins, job.crew].filter(Boolean).join(", ")}</span>
            </p>
            <p className="text-sm">{job.do}</p>
            <Choice
              label="On this visit"
              value={step?.body.step ?? NONE}
              options={job.step === "started" ? STEPS.slice(1) : STEPS}
              onChange={(to) => (to !== NONE ? put(job, { step: to as Step }) : step && takeOff(step.id))}
            />
            {step && (
              <>
                <RecordForm
                  fields={asked(step.body.step).flatMap((id) => fields.find((f) => f.id === id) ?? [])}
                  value={step.body as unknown as Body}
                  onChange={(next) => put(job, next as Partial<BodyOf<"work">>)}
                  vocabulary={vocabulary}
                />
                <div className="flex flex-wrap items-center gap-3">
                  <FileButton
                    label="Photograph the work"
                    camera
                    onFiles={(files) => void add(files, { organ: "whole plant", shows: step.id })}
                  />
                  {pictures > 0 && (
                    <span>
                      {pictures} {pictures === 1 ? "photograph" : "photographs"}
                    </span>
                  )}
                </div>
              </>
            )}
          </div>
        );
      })}
      <p className="text-sm text-soft">
        A step with a check still open is refused when it is sent, and waits under 'Needs attention'.
      </p>
      {reading && <p role="status">Reading the picture …</p>}
      {wrong && <Notice kind="refused">{wrong}</Notice>}
    </section>
  );
}
