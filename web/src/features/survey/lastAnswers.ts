import type { Draft } from "@/shared/records/draft";

const KEY = "jubark last answers";

/** What may be repeated from the last stem: circumstances and name. Never measures, condition or defects. */
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

export function rememberAnswers({ setting, origin, stage, name }: Draft) {
  const kept = name ? { entered: name.entered, taxon: name.taxon } : (lastAnswers()?.name ?? null);
  sessionStorage.setItem(KEY, JSON.stringify({ setting, origin, stage, name: kept } satisfies LastAnswers));
}
