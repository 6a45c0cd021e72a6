import { useUnits } from "@/shared/site/units";
import { Button, Check, Field, Select } from "@/shared/ui";
import { ContactInput } from "./ContactInput";
import { ListInput, NumberInput, TableInput } from "./inputs";
import { type Described, heightOnStem, listed } from "./labels";
import { MemberInput } from "./MembersInput";
import type { Vocabulary } from "./reads";

export type Body = Record<string, unknown>;

interface Props {
  fields: Described[];
  value: Body;
  onChange: (value: Body) => void;
  vocabulary: Vocabulary;
  /** exactly one of the fields is given: which, is chosen first */
  exactlyOne?: boolean;
}

/** A record as a form, field by field as the core describes it. What follows from other fields is left out. */
export function RecordForm({ fields, value, onChange, vocabulary, exactlyOne = false }: Props) {
  const set = (id: string, next: unknown) => {
    const { [id]: _before, ...others } = value;
    onChange(next === undefined ? others : { ...others, [id]: next });
  };
  const asked = fields.filter((f) => !f.computed);
  const given = asked.find((f) => value[f.id] !== undefined && value[f.id] !== null);
  const shown = exactlyOne ? (given ? [given] : []) : asked;
  return (
    <>
      {exactlyOne && (
        <Select
          label="Taken by"
          value={given?.id ?? ""}
          onChange={(e) =>
            onChange({ [e.target.value]: emptyOf(asked.find((f) => f.id === e.target.value)) })
          }
        >
          {!given && <option value="">choose</option>}
          {asked.map((f) => (
            <option key={f.id} value={f.id}>
              {f.id === "value" ? "one figure" : f.label}
            </option>
          ))}
        </Select>
      )}
      {shown.map((f) => (
        <FieldInput
          key={f.id}
          field={f}
          value={value[f.id] ?? f.default}
          onChange={(next) => (exactlyOne ? onChange({ [f.id]: next ?? emptyOf(f) }) : set(f.id, next))}
          vocabulary={vocabulary}
        />
      ))}
    </>
  );
}

/** What a method starts from when it is chosen. */
function emptyOf(field: Described | undefined): unknown {
  return field?.type === "several" ? [] : field?.type === "row" ? {} : "";
}

interface InputProps {
  field: Described;
  value: unknown;
  onChange: (value: unknown) => void;
  vocabulary: Vocabulary;
}

/** The input of one described field: its label, its meaning, and what it holds. `undefined` is nothing given. */
function FieldInput({ field, value, onChange, vocabulary }: InputProps) {
  const units = useUnits();
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
              {heightOnStem(n, units)}
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
      return field.of?.type === "row" ? (
        <RowsInput field={field} value={value} onChange={onChange} vocabulary={vocabulary} />
      ) : (
        <ListInput field={field} value={value} onChange={onChange} vocabulary={vocabulary} />
      );
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
    default: // other ids stay as they are
      if (field.to === "member") return <MemberInput field={field} value={value} onChange={onChange} />;
      return field.to === "contact" ? <ContactInput field={field} value={value} onChange={onChange} /> : null;
  }
}

/** Rows, each a form of its own. */
function RowsInput({ field, value, onChange, vocabulary }: InputProps) {
  const many = (value as unknown[] | undefined) ?? [];
  return (
    <fieldset className="grid gap-3">
      <legend className="font-bold">{field.label}</legend>
      {many.map((row, i) => (
        <div key={i} className="grid gap-3 border border-rule p-3">
          <RecordForm
            fields={field.of?.fields ?? []}
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
}
