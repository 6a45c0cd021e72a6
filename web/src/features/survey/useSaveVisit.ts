import { useState } from "react";
import { useNavigate } from "react-router";
import { useMember } from "@/shared/member";
import { useSave } from "@/shared/outbox";
import { type Draft, emptyDraft, halfFilled, photographsOf, visitOf } from "@/shared/records/draft";
import type { Row, Site } from "@/shared/records/reads";
import { storedDraft } from "@/shared/records/useDraft";
import { nextNearest, type Round, stemDone } from "@/shared/round/round";
import { rememberAnswers } from "./lastAnswers";

const begunAgain = (d: Draft): Draft => ({
  ...emptyDraft(d.plant, d.block, d.local_date, d.setting, d.origin, d.stage),
  step: "condition",
});

/** What the next sheet is told of the way to its tree. */
export interface OnTheWay {
  metres: number | null;
  towards: string;
  saved: string;
}

/**
 * Saves the visit: on the device first, then wherever the network allows. On a round the nearest tree that is left
 * comes next, with the way to it; otherwise what became of the visit is shown.
 */
export function useSaveVisit(
  seen: Draft | null | undefined,
  site: Site | undefined,
  rows: Row[],
  round: Round | null,
) {
  const save = useSave();
  const navigate = useNavigate();
  const [savedId, setSavedId] = useState<string | null>(null);
  const member = useMember();
  const row = rows.find((r) => r.id === seen?.plant);
  const ahead = round && seen ? nextNearest(rows, [...round.done, seen.plant], row, round.order) : null;
  const saveVisit = async () => {
    if (!seen || !site) return; // without its conventions a figure could not say how it was taken
    // as it is on the device: what was just recorded may not be on screen yet
    const draft = (await storedDraft(member.id, seen.plant)) ?? seen;
    const begun = halfFilled(draft);
    await save(
      "visit",
      visitOf(draft, site),
      photographsOf(draft).map(({ entry, blob }) => ({ id: entry.id, sha256: entry.body.sha256, blob })),
      // what was begun stays on this device, as the draft of another visit on the day
      { plant: draft.plant, draft: begun.length ? { ...begunAgain(draft), entries: begun } : null },
    );
    rememberAnswers(draft);
    stemDone(draft.plant);
    if (!ahead) setSavedId(draft.id);
    if (!ahead) return;
    const way: OnTheWay = { metres: ahead.metres, towards: ahead.towards, saved: row?.tag ?? "" };
    // in its place: going back leads out of the round, not to a second visit of the tree that was just saved
    navigate(`/survey/${ahead.row.id}?block=${ahead.row.block_id}`, { state: way, replace: true });
  };
  return { saveVisit, savedId, ahead };
}
