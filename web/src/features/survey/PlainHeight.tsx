import { useState } from "react";
import { onEnter } from "@/shared/onEnter";
import { useUnits } from "@/shared/site/units";
import { useTyped, useTypedText } from "@/shared/typed";
import { FigureField, Keypad } from "@/shared/ui";

const LOWEST_M = 0.1;
const HIGHEST_M = 130;

interface Props {
  taken: number | null;
  onTake: (text: string) => void;
  /** the last digit was tapped: the sheet goes on */
  onLast: (text: string) => void;
  /** the step is left with it typed */
  onLeft: (text: string) => Promise<unknown>;
}

/** A height as one figure: read off, or by eye. */
export function PlainHeight({ taken, onTake, onLast, onLeft }: Props) {
  const units = useUnits();
  const unit = units.label("m");
  const before = taken === null ? "" : units.typed(taken, "m");
  const [typed, setTyped] = useTypedText("height", before);
  const [wrong, setWrong] = useState("");
  const sound = (text: string) => {
    const metres = units.read(text, "m");
    const fits = metres !== null && metres >= LOWEST_M && metres <= HIGHEST_M;
    setWrong(fits ? "" : refusal(text));
    return fits;
  };
  const refusal = (text: string) =>
    `${text || "nothing"} is no height; from ${units.typed(LOWEST_M, "m")} to ${Math.floor(Number(units.typed(HIGHEST_M, "m")))} ${unit} is allowed.`;
  useTyped(typed !== "" && typed !== before, {
    take: async () => {
      if (!sound(typed)) return refusal(typed);
      await onLeft(typed);
      return "";
    },
    drop: () => setTyped(before),
  });
  const use = () => {
    if (sound(typed)) onTake(typed);
  };
  return (
    <>
      <FigureField
        label={`Height (${unit})`}
        unit={unit}
        inputMode="decimal"
        placeholder="0"
        value={typed}
        error={wrong || undefined}
        onChange={(e) => setTyped(e.target.value)}
        onKeyDown={onEnter(use)}
        autoFocus={matchMedia("(pointer: fine)").matches}
      />
      <Keypad
        value={typed}
        onChange={setTyped}
        doneLabel="Use this value"
        onDone={use}
        disabled={!typed}
        last={{
          of: "units",
          onLast: (text) => {
            setTyped(text);
            if (sound(text)) onLast(text);
          },
        }}
      />
    </>
  );
}
