import { describe, expect, it } from "vitest";
import type { Job } from "@/shared/work/siteWork";
import { firstView, jobsIn, waitedFor } from "./standing";

const ON = "2026-11-20";
const job = (id: string, more: Partial<Job> = {}): Job =>
  ({
    ...{ job: id, priority: 3, stop: false, held_by_wires: false, though: [], rating: "" },
    ...{ step: "accepted", begins: "", checks: [] },
    ...more,
  }) as unknown as Job;
const open = (who: string) => ({ check: "C5", title: "Owner", open: true, who }) as Job["checks"][number];

describe("jobs by what cannot wait", () => {
  const jobs = [
    job("wires", { held_by_wires: true }),
    job("breach", { though: ["Done though a check was open"] }),
    job("extreme", { rating: "extreme" }),
    job("today", { begins: ON }),
    job("tomorrow", { begins: "2026-11-21" }),
    job("begun", { step: "started" }),
    job("waits", { checks: [open("the owner"), open("the owner")] }),
    job("waits too", { checks: [open("the crew")] }),
  ];
  it("puts each where it belongs", () => {
    const ids = (view: Parameters<typeof jobsIn>[0], who = "") =>
      jobsIn(view, jobs, ON, who).map((j) => j.job);
    expect(ids("danger")).toEqual(["wires", "breach", "extreme"]);
    expect(ids("due")).toEqual(["today", "begun"]);
    expect(ids("blocked")).toEqual(["waits", "waits too"]);
    expect(ids("blocked", "the crew")).toEqual(["waits too"]);
    expect(ids("all")).toHaveLength(jobs.length);
  });
  it("counts each job once for whom it waits", () => {
    expect(waitedFor(jobs)).toEqual([
      { who: "the crew", jobs: 1 },
      { who: "the owner", jobs: 1 },
    ]);
  });
  it("opens with the first view that holds anything", () => {
    expect(firstView(jobs, ON)).toBe("danger");
    expect(firstView([job("waits", { checks: [open("x")] })], ON)).toBe("blocked");
    expect(firstView([], ON)).toBe("all");
  });
});
