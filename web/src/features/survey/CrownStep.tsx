import { useState } from "react";
import { readNumber } from "@/shared/numbers";
import { withMeasurement, withOne } from "@/shared/records/draft";
import { entryOf, type Measurement, measurementOf } from "@/shared/records/entries";
import { Check, Choice, Field, Notice } from "@/shared/ui";
import { PlainQuantities } from "./PlainQuantities";
import type { StepProps } from "./SurveyPage";
import { useComputed } from "./useComputed";

type By = "spreads_m" | "radii_m";

/** Crown: spread from two or more diameters or radii, and every other quantity of the crown. */
export function CrownStep({ draft, change }: StepProps) {
  const spread = measurementOf(draft, "crown_spread_m")?.body;
  const takenBy: By = spread?.raw.radii_m ? "radii_m" : "spreads_m";
  const [by, setBy] = useState<By>(takenBy);
  const [typed, setTyped] = useState((spread?.raw[takenBy] ?? []).join("  "));
  const computed = useComputed(spread);
  const condition = entryOf(draft, "condition")?.body;
  const leafless = condition?.leafless ?? false;
  const read = (text: string, how: By) => {
    setTyped(text);
    const numbers = text
      .split(/[\s;]+/)
      .filter(Boolean)
      .map((t) => readNumber(t));
    const sound = numbers.filter((n) => n !== null);
    const body: Measurement | null =
      sound.length >= 2 && sound.length === numbers.length
        ? { quantity: "crown_spread_m", raw: { [how]: sound }, method: "paced" }
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
            ? "Two or more diameters (m), a space between"
            : "Two or more radii at even angles (m), a space between"
        }
        inputMode="text"
        value={typed}
        error={computed.error ?? (typed && !spread ? `${typed} is not two or more numbers.` : undefined)}
        hint={
          computed.value !== null
            ? `Spread ${computed.value.toFixed(1)} m`
            : "The longest, and the one square to it"
        }
        onChange={(e) => read(e.target.value, by)}
      />
      <Check
        label="out of leaf today"
        checked={leafless}
        onChange={(bare) =>
          void change((now) =>
            withOne(now, "condition", { ...entryOf(now, "condition")?.body, leafless: bare }),
          )
        }
      />
      {leafless && (
        <Notice>Out of leaf, transparency and dieback are not seen; nothing is recorded for them.</Notice>
      )}
      <PlainQuantities step="crown" draft={draft} change={change} leafless={leafless} />
    </div>
  );
}
