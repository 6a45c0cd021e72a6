import { useState } from "react";
import { withMeasurement } from "@/shared/records/draft";
import { entryOf, type Measurement, measurementOf } from "@/shared/records/entries";
import { numbersOf } from "@/shared/records/labels";
import { useUnits } from "@/shared/site/units";
import { useTyped, useTypedText } from "@/shared/typed";
import { Check, Choice, Field, Notice } from "@/shared/ui";
import { PlainQuantities } from "./PlainQuantities";
import type { StepProps } from "./stepProps";
import { useFigure } from "./useFigure";
import { withCondition } from "./withCondition";

type By = "spreads_m" | "radii_m";
const FEWEST = 2;

/** Crown: spread from two or more diameters or radii, and every other quantity of the crown. */
export function CrownStep({ draft, change, site }: StepProps) {
  const units = useUnits();
  const unit = units.label("m");
  const entry = measurementOf(draft, "crown_spread_m");
  const spread = entry?.body;
  const takenBy: By = spread?.raw.radii_m ? "radii_m" : "spreads_m";
  const [by, setBy] = useState<By>(takenBy);
  const before = (spread?.raw[takenBy] ?? []).map((m) => units.typed(m, "m")).join("  ");
  const [held, keepTyped] = useTypedText("crown spread", "");
  const [typed, setTyped] = useState(held || before);
  const figure = useFigure(draft, site, entry);
  const unread = typed !== "" && !spread ? `${typed} is not two or more numbers.` : undefined;
  useTyped(unread !== undefined, { take: () => `Crown spread: ${unread}`, drop: () => read("", by) });
  const leafless = entryOf(draft, "condition")?.body.leafless ?? false;
  const read = (text: string, how: By) => {
    setTyped(text);
    keepTyped(text);
    const numbers = numbersOf(text, units, "m");
    const words = text.split(/[\s;]+/).filter(Boolean);
    const body: Measurement | null =
      numbers && numbers.length >= FEWEST
        ? {
            quantity: "crown_spread_m",
            raw: { [how]: numbers },
            unit_entered: unit as NonNullable<Measurement["unit_entered"]>,
            as_entered: words
              .map((w) => `${w} ${unit}`)
              .join("; ")
              .slice(0, 200),
            method: "paced",
          }
        : null;
    void change((now) => withMeasurement(now, body, "crown_spread_m"));
  };
  return (
    <div className="grid gap-4">
      <Choice
        label="Spread by"
        value={by}
        onChange={(v) => {
          setBy(v as By);
          read(typed, v as By);
        }}
        options={[
          { id: "spreads_m", label: "diameters" },
          { id: "radii_m", label: "radii from the stem" },
        ]}
      />
      <Field
        label={
          by === "spreads_m"
            ? `Two or more diameters (${unit}), a space between`
            : `Two or more radii at even angles (${unit}), a space between`
        }
        inputMode="text"
        value={typed}
        error={figure.error ?? unread}
        hint={
          figure.value !== null
            ? `Spread ${units.shown(figure.value, "m")}`
            : "The longest, and the one square to it"
        }
        onChange={(e) => read(e.target.value, by)}
      />
      <Check
        label="out of leaf today"
        checked={leafless}
        onChange={(bare) => void change((now) => withCondition(now, { leafless: bare }))}
      />
      {leafless && (
        <Notice>Out of leaf, transparency and dieback are not seen; nothing is recorded for them.</Notice>
      )}
      <PlainQuantities step="crown" draft={draft} change={change} leafless={leafless} />
    </div>
  );
}
