import { describe, expect, it } from "vitest";
import type { EntryIn } from "@/shared/records/entries";
import { isOver, jobsOfTree, stepInVisit } from "./jobsOfTree";

const work = (job: string, step: string, more: object = {}, stands = true) => ({
  kind: "work",
  stands,
  body: { job, rule: "R06", step, ...more },
});
const visit = (local_date: string, ...entries: object[]) => ({
  local_date,
  observer: "Bram",
  entries: entries as { kind: string }[],
});

describe("the jobs of a tree", () => {
  it("go through their steps by the day of the visit, whatever the order they came in", () => {
    const [job] = jobsOfTree([
      visit("2026-11-12", work("a", "planned", { begins: "2026-12-01", crew: "Crew 1" })),
      visit("2026-11-02", work("a", "accepted", { do: "Dead limb out" }), { kind: "note", body: {} }),
    ]);
    expect(job?.steps.map((s) => [s.on, s.body.step])).toEqual([
      ["2026-11-02", "accepted"],
      ["2026-11-12", "planned"],
    ]);
    expect([job?.step, job?.do, job?.begins, job?.crew]).toEqual([
      "planned",
      "Dead limb out",
      "2026-12-01",
      "Crew 1",
    ]);
  });

  it("list open ones first, then the newest, and pass over what was taken back", () => {
    const jobs = jobsOfTree([
      visit("2026-01-02", work("old", "accepted")),
      visit("2026-03-02", work("done", "completed"), work("refused", "refused")),
      visit("2026-05-02", work("new", "accepted"), work("old", "withdrawn", {}, false)),
      visit("2026-06-02", work("back", "accepted", {}, false)),
    ]);
    expect(jobs.map((j) => j.job)).toEqual(["new", "old", "done", "refused"]);
    expect(jobs.map(isOver)).toEqual([false, false, true, true]);
  });

  it("are none of a tree without any", () => {
    expect(jobsOfTree([])).toEqual([]);
    expect(jobsOfTree([visit("2026-01-02", { kind: "note", body: {} })])).toEqual([]);
  });

  it("find the step that is in a visit already", () => {
    const entries = [{ id: "1", ...work("a", "completed") }] as unknown as EntryIn[];
    expect(stepInVisit(entries, "a")?.id).toBe("1");
    expect(stepInVisit(entries, "b")).toBeUndefined();
  });
});
