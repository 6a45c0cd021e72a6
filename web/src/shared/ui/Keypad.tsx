import { Delete } from "lucide-react";
import type { ReactNode } from "react";

interface Props {
  value: string;
  onChange: (value: string) => void;
  onDone: () => void;
  doneLabel: string;
  whole?: boolean;
  disabled?: boolean;
}

const KEYS = ["1", "2", "3", "4", "5", "6", "7", "8", "9"];

/** Large keys under the thumb. Typing on a keyboard works in the field above it. */
export function Keypad({ value, onChange, onDone, doneLabel, whole = false, disabled = false }: Props) {
  const add = (key: string) =>
    onChange(key === "." && value.includes(".") ? value : value.length < 8 ? value + key : value);
  const key = (label: ReactNode, act: () => void, name = String(label)) => (
    <button
      key={name}
      type="button"
      aria-label={name}
      onClick={act}
      className="min-h-[60px] border border-rule bg-sheet text-2xl"
    >
      {label}
    </button>
  );
  return (
    <fieldset className="grid grid-cols-3 border border-rule" aria-label="Number keys">
      {KEYS.map((k) => key(k, () => add(k)))}
      {whole
        ? key(<Delete className="mx-auto" aria-hidden />, () => onChange(value.slice(0, -1)), "Delete digit")
        : key(".", () => add("."), "Decimal point")}
      {key("0", () => add("0"))}
      <button
        type="button"
        onClick={onDone}
        disabled={disabled}
        className="min-h-[60px] bg-moss px-2 font-bold text-onmoss disabled:opacity-60"
      >
        {doneLabel}
      </button>
    </fieldset>
  );
}
