import type { Schemas } from "@/api/client";
import { inWords } from "@/shared/dates";
import type { Vocabulary } from "@/shared/records/reads";

/** The letter that picks an organ. */
export const ORGAN_KEYS: Record<string, string> = {
  habit: "h",
  bark: "b",
  twig: "t",
  bud: "u",
  leaf: "l",
  needle: "n",
  spray: "y",
  flower: "f",
  fruit: "r",
  cone: "c",
  sap: "a",
};

/** What is in the hand: one key per organ, with what shows now and from when the rest will. */
export function Organs({
  vocabulary,
  season,
  chosen,
  onChoose,
}: {
  vocabulary: Vocabulary;
  season: Schemas["Showing"][] | undefined;
  chosen: string | null;
  onChoose: (organ: string) => void;
}) {
  const opens = new Map(
    season?.filter((s) => s.now < 0.25 && s.opens).map((s) => [s.organ, s.opens as string]),
  );
  const organs = vocabulary.organs.filter((o) => o.id !== "stem");
  return (
    <div>
      <h2 className="mb-2 font-sans text-sm font-normal text-soft">In the hand</h2>
      <div className="grid grid-cols-4 gap-2 lg:grid-cols-3">
        {organs.map((o) => {
          const later = opens.get(o.id);
          return (
            <button
              key={o.id}
              type="button"
              aria-pressed={chosen === o.id}
              onClick={() => onChoose(o.id)}
              className={`target relative rounded-tile border-2 px-1 text-sm leading-tight ${chosen === o.id ? "border-moss bg-lichen font-bold" : later ? "border-dashed border-rule" : "border-rule bg-sheet"}`}
            >
              {o.label === "Whole plant" ? "Habit" : o.label}
              {ORGAN_KEYS[o.id] && <span className="sr-only">, key {ORGAN_KEYS[o.id]}</span>}
              {later && (
                <span className="block text-xs text-soft">
                  from {inWords(later, false).replace(/ (\w{3})\w*/, " $1")}
                </span>
              )}
            </button>
          );
        })}
      </div>
    </div>
  );
}
