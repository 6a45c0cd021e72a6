import type { Readings } from "@/shared/records/entries";
import type { Units } from "@/shared/site/units";

export type Sighted = "angles" | "sine" | "two_stations" | "stick" | "pole";
export type HeightWay = Sighted | "direct" | "eye";
export type AngleUnit = "degrees" | "percent" | "topo";

interface Reading {
  key: string;
  label: string;
  /** the unit it is stored in; none: an angle */
  si?: "m" | "cm";
  may?: boolean;
}

export const ANGLED: HeightWay[] = ["angles", "sine", "two_stations", "pole"];
export const READINGS: Record<Sighted, Reading[]> = {
  angles: [
    { key: "distance_m", label: "Distance", si: "m" },
    { key: "top", label: "Top" },
    { key: "base", label: "Base" },
    { key: "toward_m", label: "Top nearer by, if it leans", si: "m", may: true },
  ],
  sine: [
    { key: "top_distance_m", label: "Distance to the top", si: "m" },
    { key: "top", label: "Top" },
    { key: "base_distance_m", label: "Distance to the base", si: "m" },
    { key: "base", label: "Base" },
  ],
  two_stations: [
    { key: "apart_m", label: "Stations apart", si: "m" },
    { key: "near_top", label: "Near: top" },
    { key: "near_base", label: "Near: base" },
    { key: "far_top", label: "Far: top" },
    { key: "far_base", label: "Far: base" },
  ],
  stick: [
    { key: "distance_m", label: "Distance", si: "m" },
    { key: "stick_cm", label: "Stick that covers it", si: "cm" },
    { key: "arm_cm", label: "Eye to stick", si: "cm" },
  ],
  pole: [
    { key: "pole_m", label: "Pole at the tree", si: "m" },
    { key: "top", label: "Top" },
    { key: "pole", label: "Top of the pole" },
    { key: "base", label: "Base" },
  ],
};
export const HOW: Record<HeightWay, string> = {
  angles:
    "Stand about as far away as the tree is high. Angles from the eye's level: up is positive, down negative.",
  sine: "Range finder: distance along each line of sight, and its angle. A leaning top and a near stand do not matter.",
  two_stations:
    "Where the way to the tree cannot be measured: sight it from two stations in line with it, and measure between them on the level.",
  stick: "Hold the stick upright at arm's length and walk back until it just covers the tree.",
  pole: "A pole of known length against the tree gives the scale; no distance is needed.",
  direct: "Read off a telescopic pole or an instrument.",
  eye: "",
};
export const ANGLE_WORDS: Record<AngleUnit, string> = {
  degrees: "degrees",
  percent: "per cent",
  topo: "per 66 ft",
};

/** The label of a reading with the unit it is typed in. */
export const readingLabel = ({ label, si }: Reading, angle: AngleUnit, units: Units) =>
  `${label.replace(/, if it leans$/, "")} (${si ? units.label(si) : ANGLE_WORDS[angle]})${label.endsWith("leans") ? ", if it leans" : ""}`;

/** What was typed, as it stands in the fields; from readings that are recorded already. */
export const typedReadings = (way: Sighted, given: Record<string, unknown>, units: Units) =>
  Object.fromEntries(
    READINGS[way].flatMap(({ key, si }) =>
      typeof given[key] === "number" ? [[key, si ? units.typed(given[key], si) : String(given[key])]] : [],
    ),
  ) as Record<string, string>;

/** The readings of a method in stored units with what was typed; or what is wrong with one of them. */
export function sightedReadings(
  way: Sighted,
  typed: Record<string, string>,
  angle: AngleUnit,
  alongSlope: boolean,
  units: Units,
): { raw: Readings; as_entered: string } | string {
  const readings: Record<string, unknown> = {};
  const words: string[] = [];
  for (const reading of READINGS[way]) {
    const { key, label, si, may } = reading;
    const text = (typed[key] ?? "").trim();
    const number = units.read(text, si ?? "");
    if (number === null && may && !text) continue;
    if (number === null) return `${readingLabel(reading, angle, units)}: ${text || "nothing"} is no number.`;
    readings[key] = number;
    words.push(`${label.toLowerCase()} ${text} ${si ? units.label(si) : ANGLE_WORDS[angle]}`);
  }
  if (ANGLED.includes(way) && angle !== "degrees") readings["angle_unit"] = angle;
  if (way === "angles" && alongSlope) readings["slope_distance"] = true;
  // each of the method's readings is there, or it was refused
  return { raw: { [way]: readings } as Readings, as_entered: words.join(", ").slice(0, 200) };
}
