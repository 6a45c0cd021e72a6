import type { BodyOf, EntryIn } from "@/shared/records/entries";

export type WorkStep = BodyOf<"work">;

/** A job as the entries of its tree tell it, its steps the oldest first. */
export interface TreeJob {
  job: string;
  rule: string;
  steps: { on: string; by: string; body: WorkStep }[];
  /** the newest step */
  step: WorkStep["step"];
  /** what is to be done, as last said */
  do: string;
  begins: string;
  crew: string;
}

interface VisitOfTree {
  local_date: string;
  observer?: string;
  entries: { kind: string; stands?: boolean; body?: unknown }[];
}

const OVER: WorkStep["step"][] = ["completed", "refused", "withdrawn"];

/** Whether nothing more is done about it. */
export const isOver = (job: Pick<TreeJob, "step">): boolean => OVER.includes(job.step);

/** The jobs of a tree, those still open first, then the newest; steps that were taken back do not count. */
export function jobsOfTree(visits: VisitOfTree[]): TreeJob[] {
  const steps = [...visits]
    .sort((a, b) => a.local_date.localeCompare(b.local_date))
    .flatMap((v) =>
      v.entries
        .filter((e) => e.kind === "work" && e.body && e.stands !== false)
        .map((e) => ({ on: v.local_date, by: v.observer ?? "", body: e.body as WorkStep })),
    );
  const found = [...new Set(steps.map((s) => s.body.job))].map((job): TreeJob => {
    const of = steps.filter((s) => s.body.job === job);
    const said = (field: "do" | "begins" | "crew") =>
      of.map((s) => s.body[field] ?? "").findLast(Boolean) ?? "";
    const last = of.at(-1);
    return {
      job,
      rule: last?.body.rule ?? "",
      steps: of,
      step: last?.body.step ?? "accepted",
      do: said("do"),
      begins: said("begins"),
      crew: said("crew"),
    };
  });
  const lastOn = (j: TreeJob) => j.steps.at(-1)?.on ?? "";
  return found.sort((a, b) => Number(isOver(a)) - Number(isOver(b)) || lastOn(b).localeCompare(lastOn(a)));
}

/** The step of a job that is in this visit already, where one is. */
export const stepInVisit = (entries: EntryIn[], job: string) =>
  entries.find((e): e is Extract<EntryIn, { kind: "work" }> => e.kind === "work" && e.body.job === job);
