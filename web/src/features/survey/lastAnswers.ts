import type { Draft } from "@/shared/records/draft";
import { entryOf } from "@/shared/records/entries";
import type { HeightWay } from "./heightWays";

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

const WAY_KEY = "jubark height way";

/** How heights are taken on this device: whoever carries a clinometer carries it all day. */
export const lastHeightWay = (): HeightWay =>
  (sessionStorage.getItem(WAY_KEY) as HeightWay | null) ?? "angles";
export const rememberHeightWay = (way: HeightWay) => sessionStorage.setItem(WAY_KEY, way);
