import { useState } from "react";
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
import { Tiles } from "./Tiles";

const SENSELESS = { applies: false } as const;

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
  onSkip,
}: Props) {
  const [certainty, setCertainty] = useState<Certainty>(previous?.certainty ?? "likely");
  const [seen, setSeen] = useState<SeenOn>(previous?.seen ?? (fallen ? "litter" : "plant"));
  const answer = (part: Partial<Seen>) => onAnswer({ character: c.id, certainty, seen, ...part });
  const sampled = c.kind === "count" || c.kind === "measure";
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
