import type { EntryIn } from "@/shared/records/entries";

/** The step of a job that is in this visit already, where one is. */
export const stepInVisit = (entries: EntryIn[], job: string) =>
  entries.find((e): e is Extract<EntryIn, { kind: "work" }> => e.kind === "work" && e.body.job === job);
