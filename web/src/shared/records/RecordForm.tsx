import { Select } from "@/shared/ui";
import { FieldInput } from "./FieldInput";
import type { Described } from "./labels";
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
