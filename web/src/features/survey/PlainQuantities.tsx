import { useState } from "react";
import { readNumber } from "@/shared/numbers";
import { withMeasurement } from "@/shared/records/draft";
import { measurementOf, type Quantity } from "@/shared/records/entries";
import { useVocabulary, type Vocabulary } from "@/shared/records/reads";
import { Field } from "@/shared/ui";
import type { StepProps } from "./SurveyPage";

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
const SHEETS = ["angles", "radii_m", "core"]; // quantities with a sheet of their own

function One({ quantity: q, draft, change }: { quantity: Described } & Pick<StepProps, "draft" | "change">) {
  const id = q.id as Quantity;
  const before = measurementOf(draft, id)?.body.raw.value;
  const [typed, setTyped] = useState(before == null ? "" : String(before));
  const number = readNumber(typed);
  const bad = typed !== "" && (number === null || number < q.low || number > q.high);
  const inClass =
    q.unit === "%" && number !== null && !bad ? `class ${Math.ceil(number / 5) * 5} %` : undefined;
  return (
    <Field
      label={`${q.label} (${q.unit})`}
      inputMode="decimal"
      value={typed}
      error={bad ? `${typed} is not allowed; from ${q.low} to ${q.high} ${q.unit}.` : undefined}
      hint={inClass ?? q.meaning}
      onChange={(e) => {
        setTyped(e.target.value);
        const value = readNumber(e.target.value);
        const sound = value !== null && value >= q.low && value <= q.high;
        const method = id === "buttress_cm" ? "taped" : "estimated";
        void change((now) =>
          withMeasurement(now, sound ? { quantity: id, raw: { value }, method } : null, id),
        );
      }}
    />
  );
}
