import type { Draft } from "@/shared/records/draft";
import { entryOf } from "@/shared/records/entries";

const KEY = "jubark last answers";

/** What may be repeated from the last tree: circumstances and name. Never measures, condition or defects. */
export interface LastAnswers {
  setting: string;
  origin: string;
  stage: string;
  name: { entered: string; taxon?: string } | null;
}

export function lastAnswers(): LastAnswers | null {
  try {
    return JSON.parse(sessionStorage.getItem(KEY) ?? "null") as LastAnswers | null;
  } catch {
    return null;
  }
}

export function rememberAnswers(draft: Draft) {
  const name = entryOf(draft, "determination")?.body;
  const taken = name && { entered: name.entered, ...(name.taxon ? { taxon: name.taxon } : {}) };
  const { setting, origin, stage } = draft;
  const answers: LastAnswers = { setting, origin, stage, name: taken ?? lastAnswers()?.name ?? null };
  sessionStorage.setItem(KEY, JSON.stringify(answers));
}
