import { useMemo, useState } from "react";
import { newId } from "@/shared/ids";
import { useMember } from "@/shared/member";
import { type BodyOf, type EntryOf, entriesOf, withEdited, withoutEntry } from "@/shared/records/entries";
import { type Body, RecordForm } from "@/shared/records/RecordForm";
import { useVocabulary, type Vocabulary } from "@/shared/records/reads";
import { type TreeJob, useTreeFile } from "@/shared/tree-file";
import type { TreeFileIn } from "@/shared/tree-file/recordsOf";
import { Button, Choice, Notice } from "@/shared/ui";
import { CheckRows } from "@/shared/work/CheckRows";
import { type Evidence, EvidenceForm } from "@/shared/work/EvidenceForm";
import { stepInVisit } from "@/shared/work/stepInVisit";
import { useBeforeWork, useStepHere } from "@/shared/work/useStepHere";
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
  const { file, given, unknown } = useTreeFile(draft.plant);
  const around = useBeforeWork(draft.plant, draft.local_date);
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
  const tell = (body: Evidence) =>
    void change((now) => ({ entries: [...now.entries, { id: newId(), kind: "clearance", body }] }));
  return (
    <section aria-label="Work on this tree" className="grid gap-3">
      <h2 className="text-xl">Work on this tree</h2>
      {open.map((job) => (
        <JobHere
          key={job.job}
          job={job}
          draft={draft}
          given={given}
          around={around.data}
          vocabulary={vocabulary}
          asked={asked}
          put={(body) => put(job, body)}
          takeOff={takeOff}
          tell={tell}
          photograph={(id, files) => void add(files, { organ: "whole plant", shows: id })}
        />
      ))}
      {reading && <p role="status">Reading the picture …</p>}
      {wrong && <Notice kind="refused">{wrong}</Notice>}
    </section>
  );
}

interface HereProps {
  job: TreeJob;
  draft: StepProps["draft"];
  given: TreeFileIn | undefined;
  around: Record<string, unknown> | undefined;
  vocabulary: Vocabulary;
  asked: (step: Step) => string[];
  put: (body: Partial<BodyOf<"work">>) => void;
  takeOff: (id: string) => void;
  tell: (body: Evidence) => void;
  photograph: (step: string, files: FileList | null) => void;
}

/** What is told at the tree: looks of the crew, and the second person. */
const AT_THE_TREE = ["nest_look", "hollow_look", "line_look", "second_person", "cordon", "names_given"];

/** A job at the tree: what it asks now, what can be told here, and its step; with a check open no step is begun. */
function JobHere({ job, draft, given, around, vocabulary, ...act }: HereProps) {
  const step = stepInVisit(draft.entries, job.job);
  // each working day counts as a start
  const begunToday = job.steps.some((s) => s.body["step"] === "started" && s.on === draft.local_date);
  const next = begunToday ? "completed" : "started";
  const member = useMember();
  const [telling, setTelling] = useState(false);
  const tree = useMemo(() => given && withDraft(given, draft, member.id), [given, draft, member.id]);
  const { answer, unknown } = useStepHere(tree, around, job.job, next);
  const fields = vocabulary.records.kinds.find((k) => k.id === "work")?.fields ?? [];
  const pictures = step ? entriesOf(draft, "photo").filter((p) => p.body.shows === step.id).length : 0;
  const told = entriesOf(draft, "clearance").length;
  const here = (answer?.checks ?? [])
    .filter((c) => c.open || c.later)
    .flatMap((c) => c.how)
    .filter((k) => AT_THE_TREE.includes(k));
  const asksNothing = answer?.checks.length === 0; // then it may be completed at once
  const refused = answer !== undefined && !answer.allowed && step?.body.happened !== true;
  return (
    <div className="grid gap-3 border-t border-rule pt-2">
      <p>
        <b>{vocabulary.work_rules.find((r) => r.id === job.rule)?.label ?? job.rule}</b>{" "}
        <span className="text-soft">{[job.step, job.begins, job.crew].filter(Boolean).join(", ")}</span>
      </p>
      <p className="text-sm">{job.do}</p>
      {answer && <CheckRows acts={answer.acts} checks={answer.checks} vocabulary={vocabulary} />}
      {(unknown || (!around && !answer)) && (
        <Notice kind="caution">
          What this job asks before it begins is not known on this device: it was not read while there was a
          network. The server judges the step when it is sent.
        </Notice>
      )}
      {here.length > 0 &&
        (telling ? (
          <EvidenceForm
            vocabulary={vocabulary}
            kinds={here}
            label="Keep it in this visit"
            onSave={(body) => {
              act.tell(body);
              setTelling(false);
            }}
          />
        ) : (
          <Button className="justify-self-start" onClick={() => setTelling(true)}>
            Tell what was looked at
          </Button>
        ))}
      {told > 0 && (
        <p role="status" className="text-sm text-soft">
          {told} {told === 1 ? "look" : "looks"} in this visit.
        </p>
      )}
      <Choice
        label="On this visit"
        value={step?.body.step ?? NONE}
        options={STEPS.filter((s) => s.id === NONE || (!refused && (s.id === next || asksNothing)))}
        onChange={(to) => (to !== NONE ? act.put({ step: to as Step }) : step && act.takeOff(step.id))}
      />
      {refused && (
        <Notice kind="refused" title={next === "started" ? "Not to be started:" : "Not to be completed:"}>
          {answer.refusals.join(" ")}
        </Notice>
      )}
      {refused && (
        <Button
          weight="quiet"
          className="justify-self-start"
          onClick={() => act.put({ step: next, happened: true })}
        >
          It was done all the same
        </Button>
      )}
      {step && (
        <>
          <RecordForm
            fields={act.asked(step.body.step).flatMap((id) => fields.find((f) => f.id === id) ?? [])}
            value={step.body as unknown as Body}
            onChange={(next) => act.put(next as Partial<BodyOf<"work">>)}
            vocabulary={vocabulary}
          />
          <div className="flex flex-wrap items-center gap-3">
            <FileButton
              label="Photograph the work"
              camera
              onFiles={(files) => act.photograph(step.id, files)}
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
}

/** The records of the tree with the looks of the visit that is being written. */
function withDraft(given: TreeFileIn, draft: StepProps["draft"], member: string): TreeFileIn {
  const entries = entriesOf(draft, "clearance").map(({ id, kind, body }) => ({
    id,
    kind,
    by: member,
    body: body as unknown as Record<string, unknown>,
  }));
  if (entries.length === 0) return given;
  const visit = {
    id: draft.id,
    local_date: draft.local_date,
    observed_at: new Date(Date.now() - 1000).toISOString(),
    entries,
  };
  return {
    ...given,
    records: given.records.map((r) =>
      r.record === draft.plant ? { ...r, visits: [...r.visits, visit] } : r,
    ),
  };
}
