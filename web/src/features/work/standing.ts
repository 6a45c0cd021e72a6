import type { Job } from "@/shared/work/siteWork";

export const VIEWS = [
  { id: "danger", label: "Dangerous" },
  { id: "due", label: "Due" },
  { id: "blocked", label: "Blocked" },
  { id: "all", label: "All" },
] as const;
export type View = (typeof VIEWS)[number]["id"];

const GRAVE = ["extreme", "high"];

/** Whether somebody has to act on it before anything else. */
export const isDangerous = (job: Job): boolean =>
  job.priority === 1 || job.stop || job.held_by_wires || job.though.length > 0 || GRAVE.includes(job.rating);

/** Whether its day has come, or it has begun. */
export const isDue = (job: Job, on: string): boolean =>
  job.step === "started" || (job.begins !== "" && job.begins <= on);

export const isBlocked = (job: Job): boolean => job.checks.some((c) => c.open);

/** The jobs of a view; of those that are blocked, by whom they wait. */
export function jobsIn(view: View, jobs: Job[], on: string, who = ""): Job[] {
  return jobs.filter((job) => {
    if (view === "danger") return isDangerous(job);
    if (view === "due") return isDue(job, on);
    if (view === "blocked")
      return isBlocked(job) && (!who || job.checks.some((c) => c.open && c.who === who));
    return true;
  });
}

/** For whom jobs wait, with how many each; the most first. */
export function waitedFor(jobs: Job[]): { who: string; jobs: number }[] {
  const count = new Map<string, number>();
  for (const job of jobs)
    for (const who of new Set(job.checks.filter((c) => c.open && c.who).map((c) => c.who)))
      count.set(who, (count.get(who) ?? 0) + 1);
  return [...count]
    .map(([who, n]) => ({ who, jobs: n }))
    .sort((a, b) => b.jobs - a.jobs || a.who.localeCompare(b.who));
}

/** The view that opens: the first that holds anything. */
export const firstView = (jobs: Job[], on: string): View =>
  VIEWS.find((v) => jobsIn(v.id, jobs, on).length > 0)?.id ?? "all";
