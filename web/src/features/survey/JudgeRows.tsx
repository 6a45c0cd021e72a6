import { useLayoutEffect, useRef } from "react";
import { useShortcuts } from "@/shared/shortcuts";
import { Definition } from "@/shared/ui";

export interface JudgeRow {
  id: string;
  label: string;
  meaning?: string | undefined;
  /** what earns the answer that was given */
  earned?: string | undefined;
  options: { id: string; label: string }[];
  value: string;
  set: (value: string) => void;
}

/** Rows of one tap each; the digits of a keyboard answer the first that is open, one after the other. */
export function JudgeRows({ rows }: { rows: JudgeRow[] }) {
  const onTheirWay = useRef(new Set<string>()); // answered by a key, not yet back from the device's store
  useLayoutEffect(() => {
    for (const row of rows) if (row.value !== "") onTheirWay.current.delete(row.id);
  });
  const answer = (place: number) => {
    const next = rows.find((r) => r.value === "" && !onTheirWay.current.has(r.id));
    const chosen = next?.options[place];
    if (!next || !chosen) return;
    onTheirWay.current.add(next.id);
    next.set(chosen.id);
  };
  const open = rows.find((r) => r.value === "");
  useShortcuts(
    (open?.options ?? []).map((o, i) => ({
      key: String(i + 1),
      label: `${open?.label}: ${o.label}`,
      run: () => answer(i),
    })),
  );
  return (
    <div className="grid gap-2">
      {rows.map((row) => (
        <Row key={row.id} row={row} current={row === open} />
      ))}
    </div>
  );
}

function Row({ row, current }: { row: JudgeRow; current: boolean }) {
  return (
    <fieldset className={`border-l-4 pl-2 ${current ? "border-ink" : "border-transparent"}`}>
      <legend className="sr-only">{row.label}</legend>
      <p
        className="flex flex-wrap items-baseline gap-x-3 text-sm"
        aria-hidden={row.meaning ? undefined : true}
      >
        <strong>
          {row.meaning ? <Definition definition={row.meaning}>{row.label}</Definition> : row.label}
        </strong>
        {row.earned && <span className="text-soft">{row.earned}</span>}
      </p>
      <div className="grid auto-cols-fr grid-flow-col gap-1">
        {row.options.map((o, i) => (
          <button
            key={o.id}
            type="button"
            aria-pressed={row.value === o.id}
            aria-label={`${row.label}: ${o.label}`}
            onClick={() => row.set(o.id)}
            className={`relative min-h-[53px] rounded-tile border-2 px-0.5 text-sm leading-tight sm:text-base ${row.value === o.id ? "border-ink bg-ink font-bold text-paper" : "border-rule bg-sheet"}`}
          >
            {o.label}
            {current && (
              <span aria-hidden="true" className="absolute right-1 top-0 hidden text-xs text-soft md:block">
                {i + 1}
              </span>
            )}
          </button>
        ))}
      </div>
    </fieldset>
  );
}
