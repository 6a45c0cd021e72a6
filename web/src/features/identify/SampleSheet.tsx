import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Case } from "@/core";
import { readNumber } from "@/shared/numbers";
import type { Character, Vocabulary } from "@/shared/records/reads";
import { Button, Field, Keypad } from "@/shared/ui";
import { ranked } from "./naming";
import { Ruler } from "./Ruler";
import { Tally } from "./Tally";

interface Props {
  character: Character;
  vocabulary: Vocabulary;
  previous: number[];
  /** the case as it would be with these values */
  withValues: (values: number[]) => Case;
  onDone: (values: number[]) => void;
}

/** Values of several leaves, twigs or fruits: running mean and spread, the rivals' ranges, and when it is enough. */
export function SampleSheet({ character: c, vocabulary, previous, withValues, onDone }: Props) {
  const [values, setValues] = useState<number[]>(previous);
  const [typed, setTyped] = useState("");
  const [wrong, setWrong] = useState("");
  const [low = 0, high = Number.POSITIVE_INFINITY] = c.range;
  const whole = c.kind === "count";
  const tally = useQuery({
    ...ranked(withValues(values)),
    enabled: values.length > 0,
    placeholderData: (before) => before,
  });
  const sample = values.length ? tally.data?.samples.find((s) => s.character === c.id) : undefined;
  const add = () => {
    if (!typed && values.length) return onDone(values);
    const number = readNumber(typed);
    if (number === null || number < low || number > high || (whole && !Number.isInteger(number)))
      return setWrong(
        `${typed || "nothing"} is not allowed; ${whole ? "a whole number" : "a number"} from ${low} to ${high} ${c.unit}.`,
      );
    setWrong("");
    setTyped("");
    setValues([...values, number]);
  };
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  const spread = Math.sqrt(values.reduce((a, v) => a + (v - mean) ** 2, 0) / (values.length - 1));
  return (
    <div className="grid gap-3 md:grid-cols-2">
      <div>
        <p className="figure text-5xl font-semibold" aria-live="polite">
          {values.length ? mean.toFixed(1) : "–"}{" "}
          <span className="font-sans text-base font-normal text-soft">mean of {values.length}</span>
          <span className="block font-sans text-base font-normal text-soft">
            {c.unit}
            {values.length > 1 && `, spread ± ${spread.toFixed(1)}`}
          </span>
        </p>
        <ul className="my-3 flex flex-wrap gap-2" aria-label="Values so far">
          {values.map((v, i) => (
            <li key={i}>
              <button
                type="button"
                className="min-h-[53px] min-w-[53px] border-2 border-rule bg-sheet px-2"
                aria-label={`Remove ${v}`}
                onClick={() => setValues(values.filter((_, j) => j !== i))}
              >
                {v} ×
              </button>
            </li>
          ))}
        </ul>
        <Field
          label={`Next (${c.unit})`}
          inputMode={whole ? "numeric" : "decimal"}
          data-letters="keys"
          value={typed}
          error={wrong || undefined}
          hint="Enter adds it; Enter on an empty field keeps them"
          onChange={(e) => setTyped(e.target.value)}
          onKeyDown={(e) => e.key === "Enter" && add()}
          autoFocus={matchMedia("(pointer: fine)").matches}
        />
        {(c.unit === "cm" || c.unit === "mm") && <Ruler unit={c.unit} onRead={setTyped} />}
        <Button
          weight="act"
          className="mt-3 w-full"
          disabled={values.length === 0}
          onClick={() => onDone(values)}
        >
          Save {values.length || "the"} {values.length === 1 ? "value" : "values"}
        </Button>
      </div>
      <div>
        <Keypad
          value={typed}
          onChange={setTyped}
          onDone={add}
          doneLabel="Add"
          whole={whole}
          disabled={!typed}
        />
        {sample && (
          <div className="mt-3">
            <Tally
              sample={sample}
              values={values}
              whole={whole}
              name={(t) => vocabulary.taxa.find((v) => v.id === t)?.name ?? t}
            />
          </div>
        )}
      </div>
    </div>
  );
}
