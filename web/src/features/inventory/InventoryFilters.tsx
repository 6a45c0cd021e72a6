import { useEffect, useState } from "react";
import { readNumber } from "@/shared/numbers";
import { FILE_KINDS } from "@/shared/records/entries";
import { useBlocks, useVocabulary } from "@/shared/records/reads";
import type { Units } from "@/shared/site/units";
import { Field, Select } from "@/shared/ui";

const IN_FILE: string[] = ["inspection", "storm", ...FILE_KINDS];

interface Props {
  params: URLSearchParams;
  change: (key: string, value: string) => void;
  units: Units;
}

// what was not seen whole answers no filter for its class, but the highest, and those for a class or more
const RISKS = [
  ["high_or_more", "high or more, incomplete too"],
  ["extreme", "extreme"],
  ["high", "high"],
  ["moderate", "moderate"],
  ["low", "low"],
  ["incomplete", "incomplete"],
  ["rated", "rated"],
  ["not_assessed", "not assessed"],
] as const;

/** What the table is narrowed by; the address holds it. */
export function InventoryFilters({ params, change, units }: Props) {
  const blocks = useBlocks();
  const vocabulary = useVocabulary();
  return (
    <div className="mb-4 grid grid-cols-2 gap-3 md:grid-cols-4 lg:grid-cols-8">
      <Select
        label="Block"
        value={params.get("block") ?? ""}
        onChange={(e) => change("block", e.target.value)}
      >
        <option value="">all blocks</option>
        {blocks.data?.map((b) => (
          <option key={b.id} value={b.id}>
            {b.name}
          </option>
        ))}
      </Select>
      <Field
        label="Tag or name"
        type="search"
        value={params.get("words") ?? ""}
        onChange={(e) => change("words", e.target.value)}
      />
      <Select
        label="Condition"
        value={params.get("condition") ?? ""}
        onChange={(e) => change("condition", e.target.value)}
      >
        <option value="">any</option>
        {vocabulary.data?.conditions.map((c) => (
          <option key={c.id} value={c.id}>
            {c.label}
          </option>
        ))}
      </Select>
      <Select label="Risk" value={params.get("risk") ?? ""} onChange={(e) => change("risk", e.target.value)}>
        <option value="">any</option>
        {RISKS.map(([id, label]) => (
          <option key={id} value={id}>
            {label}
          </option>
        ))}
      </Select>
      <Select
        label="In its file"
        value={params.get("file") ?? ""}
        onChange={(e) => change("file", e.target.value)}
      >
        <option value="">any</option>
        {vocabulary.data?.records.kinds
          .filter((k) => IN_FILE.includes(k.id))
          .map((k) => (
            <option key={k.id} value={k.id}>
              {k.label.toLowerCase()}
            </option>
          ))}
      </Select>
      <Select label="Sign" value={params.get("sign") ?? ""} onChange={(e) => change("sign", e.target.value)}>
        <option value="">any</option>
        {vocabulary.data?.signs.map((s) => (
          <option key={s.id} value={s.id}>
            {s.label}
          </option>
        ))}
      </Select>
      <Select label="Shows" value={params.get("form") ?? ""} onChange={(e) => change("form", e.target.value)}>
        <option value="">plants</option>
        <option value="vacant">vacant planting sites</option>
      </Select>
      <DiameterFrom
        units={units}
        value={params.get("dbh_from") ?? ""}
        onChange={(value) => change("dbh_from", value)}
      />
    </div>
  );
}

const LARGEST_CM = 10_000;

/** The least diameter, typed in the units of the site; the address holds it in cm. */
function DiameterFrom(props: { units: Units; value: string; onChange: (cm: string) => void }) {
  const { units, value, onChange } = props;
  const shown = value === "" ? "" : units.typed(Number(value), "cm");
  const [typed, setTyped] = useState(shown);
  const read = (text: string) => {
    const cm = units.read(text, "cm");
    return cm !== null && cm >= 0 && cm <= LARGEST_CM ? cm : null;
  };
  // the address may change by going back; what is typed follows unless it says the same
  useEffect(() => setTyped((now) => (readNumber(now) === readNumber(shown) ? now : shown)), [shown]);
  return (
    <Field
      label={`Diameter from (${units.label("cm")})`}
      inputMode="decimal"
      value={typed}
      error={
        typed.trim() !== "" && read(typed) === null
          ? `A number from 0 to ${Math.floor(Number(units.typed(LARGEST_CM, "cm")))}`
          : undefined
      }
      onChange={(e) => {
        setTyped(e.target.value);
        onChange(String(read(e.target.value) ?? ""));
      }}
    />
  );
}
