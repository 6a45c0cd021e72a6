import { useEffect, useRef, useState } from "react";
import type { Schemas } from "@/api/client";
import type { Case } from "@/core";
import type { Seen } from "@/shared/records/draft";
import type { BodyOf } from "@/shared/records/entries";
import type { Character, Vocabulary } from "@/shared/records/reads";
import { useShortcuts } from "@/shared/shortcuts";
import { Term } from "@/shared/terms/Term";
import { Button, Choice, Notice } from "@/shared/ui";
import { SampleSheet } from "./SampleSheet";
import { Strength } from "./Strength";
import { NO_SENSE, Tiles } from "./Tiles";

const LIKELY = 0.2; // an answer at least this probable is asked for ahead
const MOST_AHEAD = 2;
const SENSELESS = { applies: false } as const;
const IDLE_MS = 120; // once the page has settled; who knows the answer at once does not wait for guesses

type Certainty = NonNullable<Seen["certainty"]>;
type SeenOn = NonNullable<Seen["seen"]>;

interface Props {
  character: Character;
  vocabulary: Vocabulary;
  suggested: boolean;
  look: Schemas["NextLook"] | undefined;
  withheld: string | undefined;
  previous: Seen | undefined;
  /** the case so far, for the tally of a sample that is not kept yet */
  given: Case;
  /** the organ is down: what is looked at lies on the ground */
  fallen: boolean;
  onAnswer: (look: BodyOf<"observation">) => void;
  /** an answer that will probably be given, so that what follows from it can be asked for while one still looks */
  onLikely: (look: BodyOf<"observation">) => void;
  onSkip: () => void;
}

/** One character as a plain question. Number keys pick an answer; each answer says what it would do. */
export function Question({
  character: c,
  vocabulary,
  suggested,
  look,
  withheld,
  previous,
  given,
  fallen,
  onAnswer,
  onLikely,
  onSkip,
}: Props) {
  const [certainty, setCertainty] = useState<Certainty>(previous?.certainty ?? "likely");
  const [seen, setSeen] = useState<SeenOn>(previous?.seen ?? (fallen ? "litter" : "plant"));
  const answer = (part: Partial<Seen>) => onAnswer({ character: c.id, certainty, seen, ...part });
  const sampled = c.kind === "count" || c.kind === "measure";
  const likely = useRef(onLikely);
  likely.current = onLikely;
  useEffect(() => {
    if (c.kind !== "one" || !look) return;
    const states = look.outcomes.filter((o) => o.probability >= LIKELY).slice(0, MOST_AHEAD);
    const rest = setTimeout(() => {
      for (const o of states)
        likely.current({
          character: c.id,
          certainty,
          seen,
          ...(o.state === NO_SENSE ? SENSELESS : { states: [o.state] }),
        });
    }, IDLE_MS);
    return () => clearTimeout(rest);
  }, [c.id, c.kind, look, certainty, seen]);
  useShortcuts([
    { key: "x", label: "looked, not there", run: () => !withheld && answer({ none: true }) },
    { key: "+", label: "surer", run: () => setCertainty(certainty === "unsure" ? "likely" : "sure") },
    { key: "-", label: "less sure", run: () => setCertainty(certainty === "sure" ? "likely" : "unsure") },
    { key: ".", label: "can't tell, another look", run: onSkip },
  ]);
  return (
    <div>
      <p className="text-sm text-soft">
        {suggested ? <Term id="next_observation">Next observation</Term> : "An observation"} · {c.organ},{" "}
        {c.tools.join(" and ").replaceAll("_", " ")}, about {c.effort_s} seconds
        {look && (
          <>
            {" "}
            · <Strength bits={look.gain_bits} expected />
          </>
        )}
      </p>
      <h2 className="text-2xl md:text-3xl">{c.label}?</h2>
      <p className="mt-1">{c.how}</p>
      <p className="mb-4 text-sm text-soft">
        <span className="italic">{c.term}</span>. Usual mistake: {c.mistake}
      </p>
      {withheld ? (
        <Notice kind="caution" title="Withheld.">
          {withheld}
        </Notice>
      ) : sampled ? (
        <SampleSheet
          character={c}
          vocabulary={vocabulary}
          previous={previous?.values ?? []}
          withValues={(values) => ({
            ...given,
            observations: [
              ...given.observations.filter((o) => o.character !== c.id),
              { character: c.id, certainty, seen, values },
            ],
          })}
          onDone={(values) => answer({ values })}
        />
      ) : (
        <Tiles
          character={c}
          vocabulary={vocabulary}
          look={look}
          previous={previous?.states ?? []}
          onDone={(states, unsure) => answer({ states, ...(unsure ? { certainty: "unsure" } : {}) })}
          onSenseless={c.rests_on.length ? () => answer(SENSELESS) : undefined}
        />
      )}
      <div className="mt-4 flex flex-wrap items-end gap-3">
        <Choice
          label="How sure"
          value={certainty}
          onChange={(v) => setCertainty(v as Certainty)}
          options={[
            { id: "sure", label: "sure" },
            { id: "likely", label: "likely" },
            { id: "unsure", label: "unsure" },
          ]}
        />
        <Choice
          label="Seen on"
          value={seen}
          onChange={(v) => setSeen(v as SeenOn)}
          options={[
            { id: "plant", label: "the plant" },
            { id: "litter", label: "the ground" },
          ]}
        />
      </div>
      <div className="mt-4 flex flex-wrap gap-2">
        {!withheld && <Button onClick={() => answer({ none: true })}>Looked, not there</Button>}
        {!withheld && sampled && c.rests_on.length > 0 && (
          <Button onClick={() => answer(SENSELESS)}>Does not apply</Button>
        )}
        <Button onClick={onSkip}>Can't tell, another observation</Button>
      </div>
    </div>
  );
}
