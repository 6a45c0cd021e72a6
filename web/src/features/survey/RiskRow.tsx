import type { Schemas } from "@/api/client";
import type { BodyOf } from "@/shared/records/entries";
import type { Vocabulary } from "@/shared/records/reads";
import { Field, Select } from "@/shared/ui";

type Row = BodyOf<"risk">["rows"][number];

interface Props {
  number: number;
  row: Row;
  rated: Schemas["RatedRow"] | undefined;
  vocabulary: Vocabulary;
  onChange: (part: Partial<Row>) => void;
}

const LIKELIHOODS = [
  { key: "failure", label: "Likelihood of failure" },
  { key: "impact", label: "Likelihood of impact" },
  { key: "consequence", label: "Consequences of failure" },
] as const;

/** One part that may fail and what it may hit, with its three likelihoods and the work proposed. */
export function RiskRow({ number, row: r, rated, vocabulary, onChange }: Props) {
  const described = vocabulary.records.kinds.find((k) => k.id === "risk")?.fields;
  const meanings = described?.find((f) => f.id === "rows")?.of?.fields;
  const words = (key: string) => vocabulary.judged[key] ?? [];
  return (
    <fieldset className="grid grid-cols-2 gap-2 border-t border-rule pt-2">
      <legend className="sr-only">Row {number}</legend>
      <Field
        label="Part that may fail"
        value={r.part}
        maxLength={80}
        onChange={(e) => onChange({ part: e.target.value })}
      />
      <Field
        label="What it may hit"
        value={r.target}
        maxLength={80}
        onChange={(e) => onChange({ target: e.target.value })}
      />
      {LIKELIHOODS.map(({ key, label }) => (
        <Select
          key={key}
          label={label}
          hint={meanings?.find((f) => f.id === key)?.meaning}
          value={r[key]}
          onChange={(e) => onChange({ [key]: e.target.value })}
        >
          <option value="">choose</option>
          {words(key).map((w) => (
            <option key={w.id} value={w.id}>
              {w.label}
            </option>
          ))}
        </Select>
      ))}
      <Field
        label="Work proposed"
        value={r.work ?? ""}
        maxLength={120}
        onChange={(e) => onChange({ work: e.target.value })}
      />
      {r.work && (
        <Select
          label="Failure after the work"
          value={r.failure_after ?? ""}
          onChange={(e) => onChange({ failure_after: e.target.value as Row["failure"] | "" })}
        >
          <option value="">as before</option>
          {words("failure").map((w) => (
            <option key={w.id} value={w.id}>
              {w.label}
            </option>
          ))}
        </Select>
      )}
      {rated && (
        <p className="col-span-2">
          This row: <strong>{rated.rating}</strong>
          {rated.residual !== rated.rating && `, after the work ${rated.residual}`}
        </p>
      )}
    </fieldset>
  );
}
