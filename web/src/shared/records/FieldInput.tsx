import { useState } from "react";
import { readNumber } from "@/shared/numbers";
import { Button, Check, Field, Select } from "@/shared/ui";
import { type Described, listed, numbersOf } from "./labels";
import { type Body, RecordForm } from "./RecordForm";
import type { Vocabulary } from "./reads";

interface Props {
  field: Described;
  value: unknown;
  onChange: (value: unknown) => void;
  vocabulary: Vocabulary;
}

/** The input of one described field: its label, its meaning, and what it holds. `undefined` is nothing given. */
export function FieldInput({ field, value, onChange, vocabulary }: Props) {
  const options = field.type === "word" ? (field.words ?? []) : listed(field, vocabulary);
  switch (field.type) {
    case "word":
    case "listed":
      return (
        <Select
          label={field.label}
          hint={field.meaning}
          value={String(value ?? "")}
          onChange={(e) => onChange(e.target.value || undefined)}
        >
          {!(field.required && value) && field.default === undefined && <option value="">not given</option>}
          {options.map((o) => (
            <option key={o.id} value={o.id}>
              {o.label}
            </option>
          ))}
        </Select>
      );
    case "one_number":
      return (
        <Select
          label={field.label}
          hint={field.meaning}
          value={String(value ?? "")}
          onChange={(e) => onChange(Number(e.target.value))}
        >
          {field.numbers?.map((n) => (
            <option key={n} value={n}>
              {n.toFixed(2)} m
            </option>
          ))}
        </Select>
      );
    case "flag":
      return (
        <div>
          <Check label={field.label} checked={value === true} onChange={onChange} />
          <p className="text-sm text-soft">{field.meaning}</p>
        </div>
      );
    case "day":
      return (
        <Field
          label={field.label}
          hint={field.meaning}
          type="date"
          value={String(value ?? "")}
          onChange={(e) => onChange(e.target.value || undefined)}
        />
      );
    case "number":
    case "whole":
      return <NumberInput field={field} value={value} onChange={onChange} />;
    case "several":
      return <SeveralInput field={field} value={value} onChange={onChange} vocabulary={vocabulary} />;
    case "table":
      return <TableInput field={field} value={value} onChange={onChange} vocabulary={vocabulary} />;
    case "row":
      return (
        <fieldset className="grid gap-3 border border-rule p-3">
          <legend className="px-1 font-bold">{field.label}</legend>
          <RecordForm
            fields={field.fields ?? []}
            exactlyOne={field.exactly_one ?? false}
            value={(value as Body | undefined) ?? {}}
            onChange={onChange}
            vocabulary={vocabulary}
          />
        </fieldset>
      );
    case "text":
      return (
        <Field
          label={field.label}
          hint={field.meaning}
          value={String(value ?? "")}
          onChange={(e) => onChange(e.target.value || undefined)}
        />
      );
    default:
      return null; // ids stay as they are
  }
}

type Own = Pick<Props, "field" | "value" | "onChange">;

function NumberInput({ field, value, onChange }: Own) {
  const [typed, setTyped] = useState(value === undefined || value === null ? "" : String(value));
  const number = readNumber(typed);
  const [low, high] = [field.low ?? Number.NEGATIVE_INFINITY, field.high ?? Number.POSITIVE_INFINITY];
  const whole = field.type !== "whole" || Number.isInteger(number);
  const bad = typed !== "" && (number === null || number < low || number > high || !whole);
  return (
    <Field
      label={field.label}
      hint={field.meaning}
      inputMode="decimal"
      value={typed}
      error={
        bad ? `${typed} is not allowed; ${whole ? "a" : "a whole"} number from ${low} to ${high}.` : undefined
      }
      onChange={(e) => {
        setTyped(e.target.value);
        onChange(e.target.value === "" ? undefined : (readNumber(e.target.value) ?? e.target.value));
      }}
    />
  );
}

/** Numbers with a space between them, pairs with a semicolon; rows as forms of their own. */
function SeveralInput({ field, value, onChange, vocabulary }: Props) {
  const many = (value as unknown[] | undefined) ?? [];
  const of = field.of;
  const pairs = of?.type === "several";
  const [typed, setTyped] = useState(
    pairs ? many.map((pair) => (pair as number[]).join(" ")).join("; ") : many.join(" "),
  );
  if (of?.type === "id") return null;
  if (field.words)
    return (
      <fieldset>
        <legend className="text-sm text-soft">{field.label}</legend>
        <div className="flex flex-wrap gap-x-6">
          {field.words.map((w) => (
            <Check
              key={w.id}
              label={w.label}
              checked={many.includes(w.id)}
              onChange={(on) => {
                const next = on ? [...many, w.id] : many.filter((m) => m !== w.id);
                onChange(next.length ? next : undefined);
              }}
            />
          ))}
        </div>
      </fieldset>
    );
  if (of?.type === "row")
    return (
      <fieldset className="grid gap-3">
        <legend className="font-bold">{field.label}</legend>
        {many.map((row, i) => (
          <div key={i} className="grid gap-3 border border-rule p-3">
            <RecordForm
              fields={of.fields ?? []}
              value={row as Body}
              onChange={(next) => onChange(many.with(i, next))}
              vocabulary={vocabulary}
            />
            <Button weight="warn" onClick={() => onChange(many.toSpliced(i, 1))}>
              Remove row {i + 1}
            </Button>
          </div>
        ))}
        <Button onClick={() => onChange([...many, {}])}>Add a row</Button>
      </fieldset>
    );
  const read = (text: string): unknown[] | null => {
    if (pairs) {
      const rows = text.split(";").map(numbersOf);
      return rows.some((r) => r === null) ? null : rows.filter((r) => r?.length);
    }
    return of?.type === "number" || of?.type === "whole"
      ? numbersOf(text)
      : text.split(/[\s,]+/).filter(Boolean);
  };
  return (
    <Field
      label={field.label}
      hint={`${field.meaning} ${pairs ? "Two numbers, then a semicolon." : "A space between them."}`}
      value={typed}
      error={read(typed) === null ? `${typed} is not a list of numbers.` : undefined}
      onChange={(e) => {
        setTyped(e.target.value);
        const next = read(e.target.value);
        onChange(next === null ? e.target.value : next.length ? next : undefined);
      }}
    />
  );
}

/** A grade for each of the words of a vocabulary, or none. */
function TableInput({ field, value, onChange, vocabulary }: Props) {
  const graded = (value as Record<string, number | string> | undefined) ?? {};
  const set = (key: string, text: string) => {
    const { [key]: _before, ...others } = graded;
    const grade = text === "not_seen" ? text : Number(text);
    const next = text === "" ? others : { ...others, [key]: grade };
    onChange(Object.keys(next).length ? next : undefined);
  };
  return (
    <fieldset className="grid grid-cols-2 gap-3">
      <legend className="font-bold">{field.label}</legend>
      {listed(field, vocabulary).map((word) => (
        <Select
          key={word.id}
          label={word.label}
          value={String(graded[word.id] ?? "")}
          onChange={(e) => set(word.id, e.target.value)}
        >
          <option value="">not graded</option>
          {[4, 3, 2, 1, 0].map((grade) => (
            <option key={grade} value={grade}>
              {grade}: {vocabulary.condition_parts.find((p) => p.id === word.id)?.grades[grade]}
            </option>
          ))}
          <option value="not_seen">not seen</option>
        </Select>
      ))}
    </fieldset>
  );
}
