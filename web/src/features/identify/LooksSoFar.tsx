import type { Schemas } from "@/api/client";
import { inWords } from "@/shared/dates";
import type { DraftLook } from "@/shared/records/draft";
import { seenInWords } from "@/shared/records/labels";
import type { Vocabulary } from "@/shared/records/reads";

interface Props {
  looks: DraftLook[];
  vocabulary: Vocabulary;
  contradictions: Schemas["Contradiction"][];
  onUndo: (id: string) => void;
  onChange: (character: string) => void;
}

/** Every look so far: change it, undo it, and which of them do not fit. */
export function LooksSoFar({ looks, vocabulary, contradictions, onUndo, onChange }: Props) {
  const odd = new Set(contradictions.flatMap((c) => c.observations));
  return (
    <div className="mt-4">
      <h2 className="mb-2 font-sans text-sm font-normal text-soft">
        {looks.length === 0
          ? "No observation yet"
          : `${looks.length} ${looks.length === 1 ? "observation" : "observations"} so far`}
      </h2>
      <ul className="grid gap-2">
        {looks.map((look, i) => {
          const character = vocabulary.characters.find((c) => c.id === look.character);
          return (
            <li
              key={look.id}
              className={`border-l-4 bg-sheet px-2 py-1 ${odd.has(i) ? "border-rust" : look.none || look.certainty === "unsure" ? "border-ochre" : "border-moss"}`}
            >
              <button
                type="button"
                className="min-h-[53px] w-full text-left leading-tight"
                onClick={() => onChange(look.character)}
              >
                <span className="block text-sm text-soft">{character?.label}</span>
                {seenInWords(look, character)}
              </button>
              <p className="flex items-center justify-between text-sm text-soft">
                <span>
                  {look.certainty}
                  {look.seen === "litter" ? ", from the ground" : ""}
                  {look.on && `, seen ${inWords(look.on)}`}
                  {odd.has(i) && <strong className="text-rust"> does not fit</strong>}
                </span>
                <button
                  type="button"
                  className="min-h-[53px] px-2 underline"
                  onClick={() => onUndo(look.id)}
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
