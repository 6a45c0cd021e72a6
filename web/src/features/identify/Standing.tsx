import { useState } from "react";
import { Link } from "react-router";
import type { Seen } from "@/shared/records/draft";
import { nameShown } from "@/shared/records/labels";
import type { Vocabulary } from "@/shared/records/reads";
import { AcceptName, type OnAccept } from "./AcceptName";
import { Balance } from "./Balance";
import { Candidates } from "./Candidates";
import type { Answer } from "./naming";
import { percent } from "./percent";
import { SupportedName } from "./SupportedName";
import { WhatElse } from "./WhatElse";

interface Props {
  answer: Answer;
  /** an answer was given that is not weighed yet */
  stale: boolean;
  vocabulary: Vocabulary;
  looks: Seen[];
  /** the day of the visit */
  on: string;
  block: string;
  mayAccept: boolean;
  onAccept: OnAccept;
  onComeBack: ((words: string) => void) | undefined;
}

/** The honest name and what is behind it: candidates, balance, what is not yet separated, when to come back. */
export function Standing({
  answer,
  stale,
  vocabulary,
  looks,
  on,
  block,
  mayAccept,
  onAccept,
  onComeBack,
}: Props) {
  const [other, setOther] = useState<string | null>(null);
  const s = answer.supported;
  const label = (cid: string) => vocabulary.characters.find((c) => c.id === cid)?.label ?? cid;
  const listed = answer.candidates.filter((c) => c.rank !== "unlisted");
  const rivals = listed.slice(0, 3).map((c) => c.taxon); // a column each; four do not fit a small screen
  const best = answer.candidates[0];
  return (
    <>
      {/* what changed, in a few words; the whole panel read out again would drown them */}
      <p role="status" className="sr-only">
        {looks.length === 0
          ? "No observation yet"
          : best
            ? `Best match ${best.name}, ${percent(best.probability)}`
            : "No candidates"}
        {s ? `; name supported: ${nameShown(s.name, s.rank)}` : ""}
      </p>
      <div className="grid content-start gap-4 p-4 lg:overflow-y-auto">
        {looks.length === 0 ? (
          <p className="text-lg">
            No observation yet. Answer the first question, or pick what is in the hand: the candidates follow.
          </p>
        ) : (
          <>
            <SupportedName answer={answer} />
            <Candidates answer={answer} looks={looks} label={label} other={other} onOther={setOther} />
            {answer.candidates.length > 2 && (
              <p className="text-sm text-soft">Press a name to weigh the best match against it.</p>
            )}
            <Balance answer={answer} against={other ?? undefined} label={label} />
            {rivals.length > 1 && (
              <Link
                to={`/side-by-side?taxa=${rivals.join(",")}&on=${on}${block ? `&block=${block}` : ""}`}
                className="min-h-[53px] content-center text-slate underline"
              >
                See {rivals.length === 2 ? "both" : `these ${rivals.length}`} side by side
              </Link>
            )}
            <WhatElse
              answer={answer}
              looks={looks}
              vocabulary={vocabulary}
              label={label}
              onComeBack={onComeBack}
            />
          </>
        )}
      </div>
      <AcceptName
        answer={answer}
        stale={stale}
        started={looks.length > 0}
        vocabulary={vocabulary}
        other={other}
        mayAccept={mayAccept}
        onAccept={onAccept}
        onSheet={onComeBack !== undefined}
      />
    </>
  );
}
