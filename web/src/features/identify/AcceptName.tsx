import { useState } from "react";
import { nameShown } from "@/shared/records/labels";
import type { Vocabulary } from "@/shared/records/reads";
import { Button, Field } from "@/shared/ui";
import { AnotherName } from "./AnotherName";
import { lineAbove } from "./lineAbove";
import type { Answer } from "./naming";
import { percent } from "./percent";

const CONFIRM_LATER = "Genus only, confirm later.";

export type OnAccept = (
  taxon: string,
  name: string,
  probability: number | undefined,
  reason?: string,
) => void;

interface Props {
  answer: Answer;
  /** an answer was given that is not weighed yet: no name is accepted on it */
  stale: boolean;
  /** an observation has been made */
  started: boolean;
  vocabulary: Vocabulary;
  /** the candidate that was picked in the place of the best match */
  other: string | null;
  mayAccept: boolean;
  onAccept: OnAccept;
  /** on a sheet there are no places below on a phone */
  onSheet: boolean;
}

/** The name in one line, and the ways to accept it or another. */
export function AcceptName({
  answer,
  stale,
  started,
  vocabulary,
  other,
  mayAccept,
  onAccept,
  onSheet,
}: Props) {
  const [reason, setReason] = useState("");
  const s = answer.supported;
  const genus = genusOf(answer, vocabulary);
  const chosen = answer.candidates.find((c) => c.taxon === other);
  return (
    <div
      className={`fixed inset-x-0 z-20 grid ${onSheet ? "bottom-0" : "bottom-14 md:bottom-0"} gap-2 border-t border-rule bg-sheet px-4 py-3 lg:static`}
    >
      <p className="lg:hidden">
        {!started ? (
          "No observation yet"
        ) : s ? (
          <span className="latin text-xl">{nameShown(s.name, s.rank)}</span>
        ) : (
          <>
            No name supported yet; <span className="latin">{answer.candidates[0]?.name}</span> leads,{" "}
            {percent(answer.candidates[0]?.probability ?? 0)}
          </>
        )}{" "}
        {started && s && <strong>{percent(s.probability)}</strong>}
      </p>
      {mayAccept && chosen && chosen.taxon !== s?.taxon && (
        <>
          <Field
            label="Why another name than the one supported"
            value={reason}
            onChange={(e) => setReason(e.target.value)}
            maxLength={300}
          />
          <Button
            weight="act"
            disabled={stale || !reason.trim()}
            onClick={() => onAccept(chosen.taxon, chosen.name, chosen.probability, reason.trim())}
          >
            Accept {chosen.name}
          </Button>
        </>
      )}
      {mayAccept && s && (!chosen || chosen.taxon === s.taxon) && (
        <Button
          weight="act"
          disabled={stale}
          onClick={() => onAccept(s.taxon, nameShown(s.name, s.rank), s.probability)}
        >
          Accept {nameShown(s.name, s.rank)}
        </Button>
      )}
      {mayAccept && started && genus && s?.taxon !== genus.id && (
        <Button
          disabled={stale}
          onClick={() =>
            onAccept(genus.id, nameShown(genus.name, genus.rank), genus.probability, CONFIRM_LATER)
          }
        >
          Genus only, confirm later: {nameShown(genus.name, genus.rank)}
        </Button>
      )}
      {mayAccept && <AnotherName answer={answer} vocabulary={vocabulary} onAccept={onAccept} />}
    </div>
  );
}

/** The genus of the best match that is listed, with what stands in it. */
function genusOf(answer: Answer, vocabulary: Vocabulary) {
  const best = answer.candidates.find((c) => c.taxon !== "unlisted");
  const own = best?.taxon.replace(/-unlisted$/, "");
  const node = vocabulary.taxa.find((t) => t.id === own);
  const genus = node?.rank === "genus" ? node : lineAbove(vocabulary, own).find((t) => t.rank === "genus");
  if (!genus) return null;
  const within = (taxon: string) =>
    taxon === `${genus.id}-unlisted` || lineAbove(vocabulary, taxon).some((t) => t.id === genus.id);
  const probability = answer.candidates
    .filter((c) => within(c.taxon))
    .reduce((sum, c) => sum + c.probability, 0);
  return { ...genus, probability: Math.min(1, probability) };
}
