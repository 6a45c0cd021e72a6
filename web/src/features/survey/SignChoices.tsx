import { SignPicture } from "@/shared/health";
import type { BodyOf } from "@/shared/records/entries";
import type { Vocabulary } from "@/shared/records/reads";

interface Props {
  signs: string[];
  vocabulary: Vocabulary;
  onPut: (body: BodyOf<"sign">) => void;
}

/** Drawn signs to choose from: a tap says seen; beside it, looked for and not there. */
export function SignChoices({ signs, vocabulary, onPut }: Props) {
  return (
    <ul className="grid grid-cols-2 gap-2 pb-2 sm:grid-cols-3">
      {signs.map((id) => {
        const word = vocabulary.signs.find((s) => s.id === id);
        if (!word) return null;
        return (
          <li key={id} className="flex flex-col rounded-tile border-2 border-rule bg-sheet">
            <button
              type="button"
              aria-label={`${word.label}: seen`}
              onClick={() => onPut({ sign: id, present: true })}
              className="flex flex-1 flex-col p-2 text-left"
            >
              <SignPicture
                sign={id}
                version={vocabulary.version}
                className="mb-1 h-24 w-full object-contain"
              />
              <span className="font-bold leading-tight">{word.label}</span>
              <span className="text-sm leading-snug text-soft">{word.help}</span>
            </button>
            <button
              type="button"
              aria-label={`${word.label}: looked, not there`}
              onClick={() => onPut({ sign: id, present: false })}
              className="min-h-[53px] border-t-2 border-rule px-2 text-left text-sm text-slate"
            >
              looked, not there
            </button>
          </li>
        );
      })}
    </ul>
  );
}
