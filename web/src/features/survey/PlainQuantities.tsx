import { useState } from "react";
import { withMeasurement } from "@/shared/records/draft";
import { type Measurement, measurementOf, type Quantity } from "@/shared/records/entries";
import { useVocabulary, type Vocabulary } from "@/shared/records/reads";
import { useUnits } from "@/shared/site/units";
import { useTyped, useTypedText } from "@/shared/typed";
import { Field } from "@/shared/ui";
import { CrownCards } from "./CrownCards";
import type { StepProps } from "./stepProps";

type Described = Vocabulary["records"]["quantities"][number];
interface Props extends Pick<StepProps, "draft" | "change"> {
  step: string;
  /** out of leaf, what is judged in leaf is not asked */
  leafless?: boolean;
  /** each behind its own heading, for what is seldom taken */
  folded?: boolean;
}

/** Every quantity of a step that is read off as one figure: a new one is a row in the core and shows here. */
export function PlainQuantities({ step, leafless = false, folded = false, ...within }: Props) {
  const quantities = useVocabulary().data?.records.quantities ?? [];
  const plain = quantities.filter(
    (q) => q.step === step && q.id !== "dbh_cm" && !FOUND_BY_FORM.includes(q.id),
  );
  const asked = plain.filter((q) => OFTEN_ALONE(q) && !(leafless && q.in_leaf));
  if (folded)
    return asked.map((q) => (
      <details key={q.id}>
        <summary className="min-h-[53px] cursor-pointer content-center text-sm text-slate underline">
          {q.label}
        </summary>
        <One quantity={q} {...within} />
      </details>
    ));
  return (
    <div className="grid grid-cols-2 items-start gap-3">
      {asked.map((q) => (
        <One key={q.id} quantity={q} {...within} />
      ))}
    </div>
  );
}

const FOUND_BY_FORM = ["drc_cm"]; // the form of the stem asks for it in the place of the diameter
const OFTEN_ALONE = (q: Described) =>
  q.readings[0] === "value" && !q.readings.some((r) => SHEETS.includes(r));
const SHEETS = ["angles", "leaning", "radii_m", "core"]; // quantities with a sheet of their own

function One({ quantity: q, draft, change }: { quantity: Described } & Pick<StepProps, "draft" | "change">) {
  const units = useUnits();
  const unit = units.label(q.unit);
  const id = q.id as Quantity;
  const before = measurementOf(draft, id)?.body.raw.value;
  const [typed, setTyped] = useState(before == null ? "" : units.typed(before, q.unit));
  const [unread, keepUnread] = useTypedText(`quantity ${id}`, "");
  const sound = (text: string) => {
    const value = units.read(text, q.unit);
    return value !== null && value >= q.low && value <= q.high ? value : null;
  };
  const shown = unread || typed;
  const value = sound(shown);
  const inClass = q.unit === "%" && value !== null ? `class ${Math.ceil(value / 5) * 5} %` : undefined;
  const range = `from ${units.typed(q.low, q.unit)} to ${units.typed(q.high, q.unit)} ${unit}`;
  const bodyOf = (text: string, value: number): Measurement => ({
    quantity: id,
    raw: { value },
    method: id === "buttress_cm" ? "taped" : "estimated",
    unit_entered: unit as NonNullable<Measurement["unit_entered"]>,
    as_entered: `${text.trim()} ${unit}`,
  });
  const take = (text: string) => {
    setTyped(text);
    const value = sound(text);
    keepUnread(value === null ? text : "");
    void change((now) => withMeasurement(now, value === null ? null : bodyOf(text, value), id));
  };
  const wrong = shown !== "" && value === null ? `${shown} is not allowed; ${range}.` : undefined;
  useTyped(wrong !== undefined, { take: () => `${q.label}: ${wrong}`, drop: () => take("") });
  const field = (
    <Field
      label={`${q.label} (${unit})`}
      inputMode="decimal"
      value={shown}
      error={wrong}
      hint={inClass ?? q.meaning}
      onChange={(e) => take(e.target.value)}
    />
  );
  if (id !== "transparency_pct" && id !== "dieback_pct") return field;
  return (
    <div className="col-span-2 grid grid-cols-2 gap-2">
      {field}
      <CrownCards quantity={id} label={q.label} value={value} onPick={(percent) => take(String(percent))} />
    </div>
  );
}
