import type { Measurement, Readings } from "@/shared/records/entries";
import type { Units } from "@/shared/site/units";

export type Way = "tape" | "circumference" | "callipers" | "eye";
/** What was typed for one stem: one reading, or two of callipers. */
export type Typed = string | [string, string];

const LARGEST_CM: Record<Way, number> = { tape: 1500, circumference: 4712, callipers: 1500, eye: 1500 };
const SMALLEST_CM = 0.1;
const METHODS = { tape: "taped", circumference: "taped", callipers: "instrument", eye: "estimated" } as const;

/** What is wrong with a reading as it was typed, in the units of the site; nothing where it can be used. */
export function wrongWith(typed: string, way: Way, units: Units): string {
  const cm = units.read(typed, "cm");
  const largest = LARGEST_CM[way];
  if (cm !== null && cm >= SMALLEST_CM && cm <= largest) return "";
  const what = way === "circumference" ? "circumference" : "diameter";
  const range = `from ${units.typed(SMALLEST_CM, "cm")} to ${Math.floor(Number(units.typed(largest, "cm")))}`;
  return `${typed || "nothing"} is no ${what}; ${range} ${units.label("cm")} is allowed.`;
}

export function wayOf(taken: Measurement | undefined): Way {
  if (taken?.method === "estimated") return "eye";
  return taken?.raw.circumferences_cm ? "circumference" : taken?.raw.callipers_cm ? "callipers" : "tape";
}

/** What had been typed, stem by stem. */
export function typedOf(taken: Measurement | undefined, units: Units): Typed[] {
  const raw = taken?.raw ?? {};
  const typed = (cm: number | undefined) => units.typed(cm ?? 0, "cm");
  if (raw.callipers_cm) return raw.callipers_cm.map(([a, b]): Typed => [typed(a), typed(b)]);
  return (raw.diameters_cm ?? raw.circumferences_cm ?? (raw.value == null ? [] : [raw.value])).map(typed);
}

/** The readings in cm, how they were taken, and what was typed with its unit. */
export function readingsOf(
  stems: Typed[],
  way: Way,
  units: Units,
): Pick<Measurement, "raw" | "method" | "unit_entered" | "as_entered"> {
  const unit = units.label("cm") as NonNullable<Measurement["unit_entered"]>;
  const words = stems.map((s) => (Array.isArray(s) ? `${s[0]} x ${s[1]} ${unit}` : `${s} ${unit}`));
  return {
    raw: rawOf(stems, way, units),
    method: METHODS[way],
    unit_entered: unit,
    as_entered: words.join("; ").slice(0, 200),
  };
}

function rawOf(stems: Typed[], way: Way, units: Units): Readings {
  const cm = (typed: string) => units.read(typed, "cm") ?? 0;
  const pairs = stems.filter((s) => Array.isArray(s)).map(([a, b]) => [cm(a), cm(b)]);
  const single = stems.filter((s) => typeof s === "string").map(cm);
  if (way === "callipers") return { callipers_cm: pairs };
  if (way === "circumference") return { circumferences_cm: single };
  return single.length > 1 ? { diameters_cm: single } : { value: single[0] ?? null };
}
