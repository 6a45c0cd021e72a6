import type { Schemas } from "@/api/client";
import { inWords } from "@/shared/dates";
import type { Seen } from "@/shared/records/draft";
import { seenInWords } from "@/shared/records/labels";
import type { Vocabulary } from "@/shared/records/reads";

interface Props {
  observations: Seen[];
  vocabulary: Vocabulary;
  contradictions: Schemas["Contradiction"][];
  onUndo: (id: string) => void;
  onChange: (character: string) => void;
}

/** Every observation so far: change it, undo it, and which of them do not fit. */
export function ObservationsSoFar({ observations, vocabulary, contradictions, onUndo, onChange }: Props) {
  const odd = new Set(contradictions.flatMap((c) => c.observations));
  return (
    <div className="mt-4">
      <h2 className="mb-2 font-sans text-sm font-normal text-soft">
        {observations.length === 0
          ? "No observation yet"
          : `${observations.length} ${observations.length === 1 ? "observation" : "observations"} so far`}
      </h2>
      <ul className="grid gap-2">
        {observations.map((seen) => {
          const character = vocabulary.characters.find((c) => c.id === seen.character);
          return (
            <li
              key={seen.id}
              className={`border-l-4 bg-sheet px-2 py-1 ${odd.has(seen.id) ? "border-rust" : seen.none || seen.certainty === "unsure" ? "border-ochre" : "border-moss"}`}
            >
              <button
                type="button"
                className="min-h-[53px] w-full text-left leading-tight"
                onClick={() => onChange(seen.character)}
              >
                <span className="block text-sm text-soft">{character?.label}</span>
                {seenInWords(seen, character)}
              </button>
              <p className="flex items-center justify-between text-sm text-soft">
                <span>
                  {seen.certainty}
                  {seen.seen === "litter" ? ", from the ground" : ""}
                  {seen.on && `, seen ${inWords(seen.on)}`}
                  {odd.has(seen.id) && <strong className="text-rust"> does not fit</strong>}
                </span>
                <button
                  type="button"
                  className="min-h-[53px] px-2 underline"
                  onClick={() => onUndo(seen.id)}
                  aria-label={`Undo ${character?.label}`}
                >
                  undo
                </button>
              </p>
            </li>
          );
        })}
      </ul>
    </div>
  );
}
