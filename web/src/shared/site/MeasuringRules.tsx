import { heightOnStem } from "@/shared/records/labels";
import { useDrawings, type Vocabulary } from "@/shared/records/reads";
import { drawingOf, type Rules, sentenceOf } from "@/shared/records/stemForm";
import { Drawing } from "@/shared/ui/Drawing";
import { useUnits } from "./units";

interface Props {
  vocabulary: Vocabulary;
  /** the conventions as they are chosen */
  rules: Rules;
}

const CHOSEN = ["slope", "leaning", "fork_below", "fork_at", "swelling"];

/** Where the tape goes by what is chosen: a drawing and a sentence for each form on which schools differ. */
export function MeasuringRules({ vocabulary, rules }: Props) {
  const drawn = useDrawings(vocabulary.version).data?.drawings["stem_form"];
  const units = useUnits();
  const breast = typeof rules["breast_height_m"] === "number" ? rules["breast_height_m"] : 1.37;
  return (
    <section aria-label="Where the tape goes">
      <h3 className="text-sm text-soft">Where the tape goes, by what is chosen</h3>
      <ul className="grid gap-2">
        {vocabulary.stem_forms
          .filter((f) => CHOSEN.includes(f.id))
          .map((f) => (
            <li key={f.id} className="flex items-center gap-3 border-b border-rule py-1">
              <Drawing svg={drawn?.[drawingOf(f, rules)]} small />
              <p className="text-sm">
                <strong>{f.label}.</strong>{" "}
                {sentenceOf(f, heightOnStem(breast, units), rules, vocabulary, units)}
              </p>
            </li>
          ))}
      </ul>
    </section>
  );
}
