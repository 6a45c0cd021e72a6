import { useState } from "react";
import type { Schemas } from "@/api/client";
import { type Character, useDrawings, type Vocabulary } from "@/shared/records/reads";
import { useShortcuts } from "@/shared/shortcuts";
import { Button } from "@/shared/ui";
import { nameOf } from "./nameOf";

export const NO_SENSE = "does not apply"; // the outcome of that name in the engine's answer

/** Answer tiles; many-state characters take several before they are kept. */
export function Tiles({
  character: c,
  vocabulary,
  look,
  previous,
  onDone,
  onSenseless,
}: {
  character: Character;
  vocabulary: Vocabulary;
  look: Schemas["NextLook"] | undefined;
  previous: string[];
  onDone: (states: string[], unsure?: boolean) => void;
  /** where the question may make no sense on the plant: the tile that says so */
  onSenseless: (() => void) | undefined;
}) {
  const [chosen, setChosen] = useState<string[]>(c.kind === "many" ? previous : []);
  const drawn = useDrawings(vocabulary.version).data?.drawings[c.id];
  const states = c.states.filter((s) => (s.id !== "none" || c.kind === "one") && !s.retired);
  const senseless = look?.outcomes.find((o) => o.state === NO_SENSE);
  const would = (then: Schemas["NextLook"]["outcomes"][number]) =>
    `would put ${nameOf(vocabulary, then.leader)} first, ${Math.round(then.leader_probability * 100)}\u00a0%`;
  const pick = (id: string) => {
    if (c.kind === "one") return onDone([id]);
    setChosen(chosen.includes(id) ? chosen.filter((s) => s !== id) : [...chosen, id]);
  };
  useShortcuts([
    ...states
      .slice(0, 10)
      .map((s, i) => ({ key: String((i + 1) % 10), label: s.label ?? "", run: () => pick(s.id ?? "") })),
    ...(chosen.length
      ? [{ key: "Enter", label: "keep what is picked", run: () => onDone(chosen), first: true }]
      : []),
  ]);
  return (
    <>
      <ul className="grid grid-cols-2 gap-3 md:grid-cols-3">
        {states.map((s, i) => {
          const on = chosen.includes(s.id ?? "");
          const then = look?.outcomes.find((o) => o.state === s.id);
          return (
            <li key={s.id} className="flex">
              <button
                type="button"
                aria-pressed={c.kind === "many" ? on : undefined}
                onClick={() => pick(s.id ?? "")}
                className={`relative flex h-full min-h-[88px] w-full min-w-0 flex-1 flex-col justify-start ${c.kind === "one" ? "rounded-l-tile border-r-0" : "rounded-tile"} border-2 px-3 pb-2 pt-3 text-left ${on ? "border-moss bg-lichen" : previous.includes(s.id ?? "") && c.kind === "one" ? "border-moss bg-sheet" : "border-rule bg-sheet"}`}
              >
                {i < 10 && <span className="absolute right-2 top-1 text-sm text-soft">{(i + 1) % 10}</span>}
                {drawn?.[s.id ?? ""] && (
                  <img
                    alt="" // the label below says it
                    className={`mb-2 h-24 w-full ${c.organ === "bark" ? "object-cover" : "bg-[#fdfaf2] object-contain"}`}
                    src={`data:image/svg+xml,${encodeURIComponent(drawn[s.id ?? ""] ?? "")}`}
                  />
                )}
                <span
                  id={`${c.id} ${s.id}`.replace(/\W/g, "-")}
                  className="block pr-4 text-lg font-bold leading-tight"
                >
                  {s.label}
                </span>
                {s.help && <span className="block text-sm leading-snug">{s.help}</span>}
                {then && <span className="mt-1 block text-sm text-soft">{would(then)}</span>}
              </button>
              {c.kind === "one" && (
                <button
                  type="button"
                  aria-describedby={`${c.id} ${s.id}`.replace(/\W/g, "-")}
                  onClick={() => onDone([s.id ?? ""], true)}
                  className="min-w-[53px] rounded-r-tile border-2 border-l border-rule bg-paper px-1 text-sm leading-tight text-slate"
                >
                  not sure
                </button>
              )}
            </li>
          );
        })}
        {onSenseless && (!look || senseless) && (
          <li>
            <button
              type="button"
              onClick={onSenseless}
              className="flex h-full min-h-[88px] w-full flex-col justify-start rounded-tile border-2 border-dashed border-rule bg-sheet px-3 pb-2 pt-3 text-left"
            >
              <span className="block text-lg font-bold leading-tight">Does not apply</span>
              <span className="text-sm text-soft">this plant has none of what is asked about</span>
              {senseless && <span className="mt-1 block text-sm text-soft">{would(senseless)}</span>}
            </button>
          </li>
        )}
      </ul>
      {c.kind === "many" && (
        <div className="mt-3 flex gap-2">
          <Button
            weight="act"
            className="flex-1"
            disabled={chosen.length === 0}
            onClick={() => onDone(chosen)}
          >
            {chosen.length === 0
              ? "Pick all that are there"
              : `Save: ${chosen.map((id) => c.states.find((s) => s.id === id)?.label).join(", ")}`}
          </Button>
          <Button disabled={chosen.length === 0} onClick={() => onDone(chosen, true)}>
            Save, not sure
          </Button>
        </div>
      )}
    </>
  );
}
