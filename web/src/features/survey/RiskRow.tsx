import { useState } from "react";
import type { Schemas } from "@/api/client";
import type { BodyOf } from "@/shared/records/entries";
import { RecordForm } from "@/shared/records/RecordForm";
import type { Vocabulary } from "@/shared/records/reads";
import { Button, Choice, Field } from "@/shared/ui";

type Row = BodyOf<"risk">["rows"][number];

interface Props {
  number: number;
  row: Row;
  rated: Schemas["RatedRow"] | undefined;
  vocabulary: Vocabulary;
  onChange: (part: Partial<Row>) => void;
  onRemove: (() => void) | undefined;
}

const OTHER = "other words";
const FACTORS = ["failure", "impact", "consequence"] as const;
// what is written down where it helps the judgement, and what the work would change
const MORE = ["part_cm", "fall_m", "occupancy", "can_move"];
const WORK = ["work", "failure_after", "impact_after", "consequence_after"];

/** One part that may fail and what it may hit, with its three factors; behind them what they rest on, and the work. */
export function RiskRow({ number, row: r, rated, vocabulary, onChange, onRemove }: Props) {
  const described = vocabulary.records.kinds.find((k) => k.id === "risk")?.fields;
  const fields = described?.find((f) => f.id === "rows")?.of?.fields ?? [];
  const field = (id: string) => fields.find((f) => f.id === id);
  const given = (ids: string[]) => ids.some((id) => r[id as keyof Row]);
  const form = (ids: string[]) => (
    <div className="grid gap-3 pb-2">
      <RecordForm
        fields={fields.filter((f) => ids.includes(f.id))}
        value={r as Record<string, unknown>}
        onChange={(next) =>
          onChange(Object.fromEntries(ids.map((id) => [id, next[id]])) as unknown as Partial<Row>)
        }
        vocabulary={vocabulary}
      />
    </div>
  );
  return (
    <fieldset className="grid gap-3 border-t border-rule pt-2">
      <legend className="sr-only">Row {number}</legend>
      <Named
        label="Part that may fail"
        value={r.part}
        words={vocabulary.judged["risk_part"] ?? []}
        onChange={(part) => onChange({ part })}
      />
      <Named
        label="What it may hit"
        value={r.target}
        words={vocabulary.judged["risk_target"] ?? []}
        onChange={(target) => onChange({ target })}
      />
      {FACTORS.map((key) => (
        <Choice
          key={key}
          label={field(key)?.label ?? key}
          meaning={field(key)?.meaning}
          tight
          value={r[key]}
          onChange={(word) => onChange({ [key]: word })}
          options={vocabulary.judged[key] ?? []}
        />
      ))}
      <details>
        <summary className="min-h-[53px] cursor-pointer content-center text-slate underline">
          Size, fall, occupancy, what can be moved{given(MORE) ? " (recorded)" : ""}
        </summary>
        {form(MORE)}
      </details>
      <details>
        <summary className="min-h-[53px] cursor-pointer content-center text-slate underline">
          Work, and what stays of the risk{given(WORK) ? " (recorded)" : ""}
        </summary>
        {form(WORK)}
      </details>
      <div className="flex items-center justify-between">
        <p aria-live="polite">
          {rated && (
            <>
              This row: <strong>{rated.rating}</strong> ({rated.likelihood.replaceAll("_", " ")} to fail and
              hit)
              {rated.residual !== rated.rating && `, after the work ${rated.residual}`}
            </>
          )}
        </p>
        {onRemove && (
          <Button weight="warn" onClick={onRemove}>
            Remove row {number}
          </Button>
        )}
      </div>
    </fieldset>
  );
}

/** A few words in one tap, or any others. */
function Named(props: {
  label: string;
  value: string;
  words: { id: string; label: string }[];
  onChange: (value: string) => void;
}) {
  const { label, value, words, onChange } = props;
  const offered = words.some((w) => w.id === value);
  const [other, setOther] = useState(value !== "" && !offered);
  const pick = (word: string) => {
    setOther(word === OTHER);
    onChange(word === OTHER ? "" : word);
  };
  return (
    <div className="grid gap-2">
      <Choice
        label={label}
        tight
        value={other ? OTHER : offered ? value : ""}
        onChange={pick}
        options={[...words, { id: OTHER, label: "other words" }]}
      />
      {other && (
        <Field
          label={`${label}: other words`}
          value={value}
          maxLength={80}
          onChange={(e) => onChange(e.target.value)}
        />
      )}
    </div>
  );
}
