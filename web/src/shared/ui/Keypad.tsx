import { Delete } from "lucide-react";
import type { ReactNode } from "react";

interface Props {
  value: string;
  onChange: (value: string) => void;
  onDone: () => void;
  doneLabel: string;
  whole?: boolean;
  disabled?: boolean;
  /** keys beside the digits that finish the number and go on: its tenths, or its last whole digit */
  last?: { of: "tenths" | "units"; onLast: (value: string) => void };
}

const DIGITS = ["1", "2", "3", "4", "5", "6", "7", "8", "9"];
const LAST = ["0", "5", "1", "6", "2", "7", "3", "8", "4", "9"]; // two columns, 0 to 4 and 5 to 9
const MOST_CHARACTERS = 8;

/** Large keys under the thumb. Typing on a keyboard works in the field above it. */
export function Keypad(props: Props) {
  const { value, onChange, onDone, doneLabel, whole = false, disabled = false, last } = props;
  const add = (key: string) =>
    onChange(key === "." && value.includes(".") ? value : (value + key).slice(0, MOST_CHARACTERS));
  const key = (label: ReactNode, act: () => void, name = String(label)) => (
    <button
      key={name}
      type="button"
      aria-label={name}
      onClick={act}
      className="min-h-[56px] border border-rule bg-sheet text-2xl"
    >
      {label}
    </button>
  );
  const erase = () => onChange(value.slice(0, -1));
  const delete_ = key(<Delete className="mx-auto" aria-hidden />, erase, "Delete digit");
  return (
    <div className={last ? "grid grid-cols-[3fr_2fr] gap-1" : ""}>
      <fieldset className="grid grid-cols-3 border border-rule" aria-label="Number keys">
        {DIGITS.map((k) => key(k, () => add(k)))}
        {whole ? delete_ : key(".", () => add("."), "Decimal point")}
        {key("0", () => add("0"))}
        {last ? (
          delete_
        ) : (
          <Done label={doneLabel} disabled={disabled} onDone={onDone} className="min-h-[56px] px-2" />
        )}
        {last && (
          <Done
            label={doneLabel}
            disabled={disabled}
            onDone={onDone}
            className="col-span-3 min-h-[56px] text-lg"
          />
        )}
      </fieldset>
      {last && <LastKeys value={value} {...last} />}
    </div>
  );
}

function Done(props: { label: string; disabled: boolean; onDone: () => void; className: string }) {
  return (
    <button
      type="button"
      onClick={props.onDone}
      disabled={props.disabled}
      className={`bg-moss font-bold text-onmoss disabled:opacity-60 ${props.className}`}
    >
      {props.label}
    </button>
  );
}

/** The last digit: it finishes the number, and the sheet goes on. One tap less, three times on every tree. */
function LastKeys({ value, of, onLast }: { value: string } & NonNullable<Props["last"]>) {
  const point = of === "tenths" && !value.includes(".") ? "." : "";
  const open = value !== "" || of === "units";
  return (
    <fieldset className="grid grid-cols-2" aria-label="Last digit, then go on">
      {LAST.map((digit) => (
        <button
          key={digit}
          type="button"
          disabled={!open}
          aria-label={`${point}${digit}, go on`}
          onClick={() => onLast(`${value}${point}${digit}`)}
          className="min-h-[53px] border border-rule bg-lichen text-xl disabled:opacity-60"
        >
          {point}
          {digit}
          <span aria-hidden="true" className="text-soft">
            {" ›"}
          </span>
        </button>
      ))}
    </fieldset>
  );
}
