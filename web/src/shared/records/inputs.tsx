import { useId, useState } from "react";
import { onEnter } from "@/shared/onEnter";
import { labelIn, useUnits } from "@/shared/site/units";
import { useTyped } from "@/shared/typed";
import { Button, Check, Field, Select } from "@/shared/ui";
import { type Described, listed, numbersOf } from "./labels";
import { MembersInput } from "./MembersInput";
import type { Vocabulary } from "./reads";

interface Own {
  field: Described;
  value: unknown;
  onChange: (value: unknown) => void;
}

/** A number in the units of the site; what goes on is in the stored unit. */
export function NumberInput({ field, value, onChange }: Own) {
  const units = useUnits();
  const si = field.unit ?? "";
  const [typed, setTyped] = useState(
    typeof value === "number" ? units.typed(value, si) : String(value ?? ""),
  );
  const number = units.read(typed, si);
  const [low, high] = [field.low ?? Number.NEGATIVE_INFINITY, field.high ?? Number.POSITIVE_INFINITY];
  const whole = field.type !== "whole" || Number.isInteger(number);
  const bad = typed !== "" && (number === null || number < low || number > high || !whole);
  const wrong = bad
    ? `${typed} is not allowed; ${whole ? "a" : "a whole"} number from ${units.typed(low, si)} to ${units.typed(high, si)}.`
    : undefined;
  const put = (text: string) => {
    setTyped(text);
    onChange(text === "" ? undefined : (units.read(text, si) ?? text));
  };
  useTyped(bad, { take: () => `${field.label}: ${wrong}`, drop: () => put("") });
  return (
    <Field
      label={labelIn(units, field.label, field.unit)}
      hint={field.meaning}
      inputMode="decimal"
      value={typed}
      error={wrong}
      onChange={(e) => put(e.target.value)}
    />
  );
}

/** Numbers with a space between them, pairs with a semicolon; rows as forms of their own. */
export function ListInput({ field, value, onChange, vocabulary }: Own & { vocabulary?: Vocabulary }) {
  const many = (value as unknown[] | undefined) ?? [];
  const of = field.of;
  const pairs = of?.type === "several";
  const units = useUnits();
  const si = (pairs ? of?.of?.unit : of?.unit) ?? "";
  const shown = (n: unknown) => (typeof n === "number" ? units.typed(n, si) : String(n));
  const [typed, setTyped] = useState(
    pairs
      ? many.map((pair) => (pair as number[]).map(shown).join(" ")).join("; ")
      : many.map(shown).join(" "),
  );
  if (of?.type === "id")
    return of.to === "member" ? <MembersInput field={field} value={value} onChange={onChange} /> : null;
  if (of?.type === "listed" && vocabulary)
    return <SeveralListed field={field} value={value} onChange={onChange} vocabulary={vocabulary} />;
  if (of?.words)
    return (
      <fieldset>
        <legend className="text-sm text-soft">{field.label}</legend>
        <div className="flex flex-wrap gap-x-6">
          {of.words.map((w) => (
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
  const read = (text: string): unknown[] | null => {
    if (pairs) {
      const rows = text.split(";").map((t) => numbersOf(t, units, si));
      return rows.some((r) => r === null) ? null : rows.filter((r) => r?.length);
    }
    return of?.type === "number" || of?.type === "whole"
      ? numbersOf(text, units, si)
      : text.split(/[\s,]+/).filter(Boolean);
  };
  return (
    <NumbersInput
      field={field}
      pairs={pairs}
      typed={typed}
      setTyped={setTyped}
      read={read}
      onChange={onChange}
    />
  );
}

interface Numbers extends Pick<Own, "field" | "onChange"> {
  pairs: boolean;
  typed: string;
  setTyped: (text: string) => void;
  read: (text: string) => unknown[] | null;
}

function NumbersInput({ field, pairs, typed, setTyped, read, onChange }: Numbers) {
  const units = useUnits();
  const wrong = read(typed) === null ? `${typed} is not a list of numbers.` : undefined;
  const put = (text: string) => {
    setTyped(text);
    const next = read(text);
    onChange(next === null ? text : next.length ? next : undefined);
  };
  useTyped(wrong !== undefined, { take: () => `${field.label}: ${wrong}`, drop: () => put("") });
  const si = (pairs ? field.of?.of?.unit : field.of?.unit) ?? "";
  return (
    <Field
      label={labelIn(units, field.label, si)}
      hint={`${field.meaning} ${pairs ? "Two numbers, then a semicolon." : "A space between them."}`}
      value={typed}
      error={wrong}
      onChange={(e) => put(e.target.value)}
    />
  );
}

/** A few words of a long vocabulary: found by typing, each taken off again by its button. */
function SeveralListed({ field, value, onChange, vocabulary }: Own & { vocabulary: Vocabulary }) {
  const many = (value as string[] | undefined) ?? [];
  const [typed, setTyped] = useState("");
  const id = useId();
  const words = listed(field.of ?? {}, vocabulary);
  const named = (word: string) => words.find((w) => w.id === word)?.label ?? word;
  const same = (one: string, other: string) => one.toLowerCase() === other.trim().toLowerCase();
  const take = (word: { id: string } | undefined, text: string) => {
    setTyped(word ? "" : text);
    if (word && !many.includes(word.id)) onChange([...many, word.id]);
  };
  // a code may begin another name ("ind", Indiana): it counts once one has left off typing
  useTyped(typed.trim() !== "", {
    take: () => `${field.label}: “${typed}” is typed, and none is chosen.`,
    drop: () => setTyped(""),
  });
  const finish = (text: string) =>
    take(
      words.find((w) => same(w.id, text) || same(w.label, text)),
      text,
    );
  const holds = (text: string) =>
    words.some((w) => `${w.label} ${w.id}`.toLowerCase().includes(text.trim().toLowerCase()));
  return (
    <div>
      <Field
        label={field.label}
        hint={field.meaning}
        list={id}
        placeholder="type its name or code"
        value={typed}
        error={typed && !holds(typed) ? `${typed} is none of them.` : undefined}
        onChange={(e) => {
          const text = e.target.value;
          take(
            words.find((w) => same(w.label, text)),
            text,
          );
        }}
        onBlur={() => finish(typed)}
        onKeyDown={onEnter(() => finish(typed))}
      />
      <datalist id={id}>
        {words.map((w) => (
          <option key={w.id} value={w.label}>
            {w.id}
          </option>
        ))}
      </datalist>
      <ul className="flex flex-wrap gap-2">
        {many.map((word) => (
          <li key={word}>
            <Button
              className="mt-2"
              aria-label={`Take off ${named(word)}`}
              onClick={() => {
                const next = many.filter((m) => m !== word);
                onChange(next.length ? next : undefined);
              }}
            >
              {named(word)} ({word}) ×
            </Button>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** A grade for each of the words of a vocabulary, or none. */
export function TableInput({ field, value, onChange, vocabulary }: Own & { vocabulary: Vocabulary }) {
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
