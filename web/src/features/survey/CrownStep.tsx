import { useState } from "react";
import { newId } from "@/shared/ids";
import { readNumber } from "@/shared/numbers";
import type { Quantity } from "@/shared/records/draft";
import { Check, Choice, Field, Notice } from "@/shared/ui";
import type { StepProps } from "./SurveyPage";
import { useComputed } from "./useComputed";

/** Crown: spread from two or more diameters or radii, base of the live crown, transparency and dieback in steps of five. */
export function CrownStep({ draft, change }: StepProps) {
  const spread = draft.measurements.find((m) => m.quantity === "crown_spread_m");
  const keptBy = spread?.raw.radii_m ? "radii_m" : "spreads_m";
  const [by, setBy] = useState<"spreads_m" | "radii_m">(keptBy);
  const [typed, setTyped] = useState(((spread?.raw[keptBy] as number[]) ?? []).join("  "));
  const computed = useComputed(spread);
  const put = (
    quantity: Quantity,
    raw: Record<string, unknown> | null,
    method: "paced" | "estimated" = "estimated",
  ) =>
    void change((now) => {
      const others = now.measurements.filter((m) => m.quantity !== quantity);
      const id = now.measurements.find((m) => m.quantity === quantity)?.id ?? newId();
      return { measurements: raw ? [...others, { id, quantity, raw, method }] : others };
    });
  const read = (text: string, how: "spreads_m" | "radii_m") => {
    setTyped(text);
    const numbers = text
      .split(/[\s;]+/)
      .filter(Boolean)
      .map((t) => readNumber(t));
    put(
      "crown_spread_m",
      numbers.length >= 2 && numbers.every((n) => n !== null) ? { [how]: numbers } : null,
      "paced",
    );
  };
  return (
    <div className="grid gap-4">
      <Choice
        label="Spread by"
        value={by}
        onChange={(v) => {
          setBy(v as "spreads_m");
          read(typed, v as "spreads_m");
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
      <One
        draft={draft}
        quantity="crown_base_m"
        label="Base of the live crown above the ground (m)"
        most={130}
        put={put}
      />
      <Check
        label="out of leaf today"
        checked={draft.leafless ?? false}
        onChange={(leafless) => void change({ leafless })}
      />
      {draft.leafless ? (
        <Notice>Out of leaf, transparency and dieback are not seen; nothing is recorded for them.</Notice>
      ) : (
        <div className="grid grid-cols-2 gap-3">
          <One
            draft={draft}
            quantity="transparency_pct"
            label="Crown transparency (%)"
            most={100}
            put={put}
          />
          <One draft={draft} quantity="dieback_pct" label="Dieback (%)" most={100} put={put} />
        </div>
      )}
    </div>
  );
}

function One({
  draft,
  quantity,
  label,
  most,
  put,
}: {
  draft: StepProps["draft"];
  quantity: Quantity;
  label: string;
  most: number;
  put: (quantity: Quantity, raw: Record<string, unknown> | null) => void;
}) {
  const kept = draft.measurements.find((m) => m.quantity === quantity);
  const [typed, setTyped] = useState(kept ? String(kept.raw.value) : "");
  const number = readNumber(typed);
  const bad = typed !== "" && (number === null || number < 0 || number > most);
  const step =
    quantity.endsWith("pct") && number !== null && !bad ? `class ${Math.ceil(number / 5) * 5} %` : undefined;
  return (
    <Field
      label={label}
      inputMode="decimal"
      value={typed}
      error={bad ? `${typed} is not allowed; from 0 to ${most}.` : undefined}
      hint={step}
      onChange={(e) => {
        setTyped(e.target.value);
        const value = readNumber(e.target.value);
        put(quantity, value === null || value < 0 || value > most ? null : { value });
      }}
    />
  );
}
