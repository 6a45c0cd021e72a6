import { ToggleGroup } from "radix-ui";
import { useId } from "react";
import { Definition } from "./Definition";

interface Props {
  label: string;
  /** what the label means: shown on tap or focus */
  meaning?: string | undefined;
  value: string;
  options: { id: string; label: string; hint?: string }[];
  onChange: (value: string) => void;
  hideLabel?: boolean;
  wide?: boolean;
  /** all of them side by side on a phone, where the keys below need the room */
  tight?: boolean;
}

/** One of a few words, all in view. A chosen one cannot be unchosen, only changed. */
export function Choice({
  label,
  meaning,
  value,
  options,
  onChange,
  hideLabel = false,
  wide = false,
  tight = false,
}: Props) {
  const id = useId();
  return (
    <div>
      <p id={id} className={hideLabel ? "sr-only" : "mb-1 text-sm text-soft"}>
        {meaning ? <Definition definition={meaning}>{label}</Definition> : label}
      </p>
      <ToggleGroup.Root
        type="single"
        value={value}
        onValueChange={(next) => next && onChange(next)}
        aria-labelledby={id}
        className={
          wide ? "grid grid-cols-2 gap-2 sm:grid-cols-3" : `flex flex-wrap ${tight ? "gap-1" : "gap-2"}`
        }
      >
        {options.map((o) => (
          <ToggleGroup.Item
            key={o.id}
            value={o.id}
            className={`${tight ? "px-2" : "px-3"} target rounded-tile border-2 border-rule bg-sheet py-2 text-left data-[state=on]:border-ink data-[state=on]:bg-ink data-[state=on]:font-bold data-[state=on]:text-paper`}
          >
            {o.label}
            {o.hint && <span className="block text-sm font-normal opacity-80">{o.hint}</span>}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </div>
  );
}
