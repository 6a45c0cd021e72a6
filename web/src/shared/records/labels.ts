import type { Character, Entry, Vocabulary } from "./reads";

const KIND_ORDER = [
  "tag",
  "determination",
  "measurement",
  "condition",
  "life",
  "sign",
  "defect",
  "note",
  "photo",
  "voucher",
  "look",
];

/** Order in which the entries of a visit are read: what it is, how big, how it does, then the looks behind the name. */
export function inReadingOrder<T extends Pick<Entry, "kind" | "body" | "recorded_at" | "id">>(
  entries: T[],
): T[] {
  const place = (e: T) => KIND_ORDER.indexOf(e.kind);
  const quantity = (e: T) => String((e.body as { quantity?: string }).quantity ?? "");
  return [...entries].sort(
    (a, b) =>
      place(a) - place(b) ||
      quantity(a).localeCompare(quantity(b)) ||
      a.recorded_at.localeCompare(b.recorded_at) ||
      a.id.localeCompare(b.id),
  );
}

export const METHOD_WORDS: Record<string, string> = {
  taped: "tape",
  estimated: "by eye",
  instrument: "instrument",
  paced: "paced",
};

/** What was seen, in words: 'opposite', '9, 10, 9, 11', 'looked, not there'. */
export function seenInWords(
  look: { states?: string[]; values?: number[]; none?: boolean; skipped?: boolean; applies?: boolean },
  character?: Character,
): string {
  if (look.none) return "looked, not there";
  if (look.applies === false) return "does not apply";
  if (look.skipped) return "not looked";
  if (look.values?.length)
    return `${look.values.join(", ")}${character?.unit && character.kind === "measure" ? ` ${character.unit}` : ""}`;
  return (look.states ?? [])
    .map((s) => character?.states.find((o) => o.id === s)?.label ?? s.replaceAll("_", " "))
    .join(", ");
}

/** One entry as a line: what, and the figure or words. */
export function entryInWords(
  entry: Entry,
  vocabulary?: Vocabulary,
  scale = "words",
): { what: string; said: string } {
  const body = entry.body as Record<string, string> & {
    states?: never;
    values?: never;
    none?: never;
    skipped?: never;
    applies?: never;
  };
  const character = vocabulary?.characters.find((c) => c.id === body.character);
  switch (entry.kind) {
    case "look":
      return {
        what: character?.label ?? body.character ?? "",
        said: `${seenInWords(body, character)}${body.certainty ? ` (${body.certainty})` : ""}`,
      };
    case "determination":
      return {
        what: "Name",
        said: `${nameShown(body.name ?? "", body.name_rank ?? "")}${body.probability ? `, ${Math.round(Number(body.probability) * 100)} %` : ""}${body.reason ? ` · ${body.reason}` : ""}`,
      };
    case "measurement":
      return {
        what: QUANTITY_WORDS[body.quantity ?? ""] ?? body.quantity ?? "",
        said: measureInWords(body),
      };
    case "condition":
      return { what: "Condition", said: conditionInWords(entry.body, scale) };
    case "defect":
      return {
        what: "Defect",
        said: `${vocabulary?.defects.find((d) => d.id === body.defect)?.label ?? body.defect}, ${body.part}${body.extent_percent ? `, ${body.extent_percent} %` : ""}`,
      };
    case "risk": {
      const sheet = entry.body as {
        rating?: string;
        residual?: string;
        rows?: unknown[];
        next_look?: string;
      };
      const rows = sheet.rows?.length ?? 0;
      return {
        what: "Risk worksheet",
        said: `${sheet.rating || "no rating, base or crown not seen"}, ${rows} ${rows === 1 ? "row" : "rows"}${sheet.next_look ? `, look again by ${sheet.next_look}` : ""}`,
      };
    }
    case "sign":
      return {
        what: "Sign",
        said: `${vocabulary?.signs.find((s) => s.id === body.sign)?.label ?? body.sign}${(body.present as unknown) === false ? ": looked, not there" : ""}`,
      };
    case "life":
      return { what: "Life", said: String(body.state).replaceAll("_", " ") };
    case "tag":
      return {
        what: "Tag",
        said: `${body.number}${body.state && body.state !== "set" ? `, ${body.state}` : ""}`,
      };
    case "note":
      return { what: "Note", said: body.text ?? "" };
    case "photo":
      return {
        what: "Photograph",
        said: body.defect
          ? `defect: ${vocabulary?.defects.find((d) => d.id === body.defect)?.label ?? body.defect}`
          : body.organ || "whole plant",
      };
    case "clock_confirmed":
      return { what: "Date", said: "confirmed" };
    default:
      return { what: entry.kind.replaceAll("_", " "), said: Object.values(body).join(", ") };
  }
}

const QUANTITY_WORDS: Record<string, string> = {
  dbh_cm: "Diameter",
  drc_cm: "Diameter, root collar",
  buttress_cm: "Diameter above the buttress",
  height_m: "Height",
  crown_spread_m: "Crown spread",
  crown_base_m: "Base of the crown",
  transparency_pct: "Crown transparency",
  dieback_pct: "Dieback",
  rings_per_cm: "Rings of a core",
};

const GRADES = ["failed", "bad", "poor", "fair", "good"];

/** A grade of 0 to 4 as the site shows it. */
export function gradeInWords(grade: number, scale: string): string {
  if (scale === "five_points") return `${Math.round(grade) + 1} of 5`;
  return scale === "percent" ? `${Math.round(25 * grade)} %` : (GRADES[Math.round(grade)] ?? "");
}

/** The word, and where it was graded by parts, the parts. */
function conditionInWords(body: { [key: string]: unknown }, scale: string): string {
  const parts = Object.entries((body.parts as Record<string, number | string>) ?? {});
  const graded = parts.map(
    ([part, grade]) =>
      `${part.replaceAll("_", " ")} ${grade === "not_seen" ? "not seen" : gradeInWords(Number(grade), scale)}`,
  );
  return [String(body.word).replaceAll("_", " "), ...graded].join("; ");
}

/** The unit of a quantity, as it is read. */
export function unitOf(quantity: string): string {
  if (quantity === "rings_per_cm") return "to the cm";
  return quantity.endsWith("_cm") ? "cm" : quantity.endsWith("_pct") ? "%" : "m";
}

function measureInWords(body: Record<string, string>): string {
  const unit = unitOf(body.quantity ?? "");
  const parts = [
    `${Number(body.value).toFixed(unit === "%" ? 0 : 1)} ${unit}`,
    METHOD_WORDS[body.method ?? ""] ?? "",
  ];
  if (body.at_height_m) parts.push(`at ${Number(body.at_height_m).toFixed(2)} m`);
  if (body.stem_form && body.stem_form !== "upright") parts.push(body.stem_form.replaceAll("_", " "));
  if (Number(body.thinner)) parts.push(`${body.thinner} thinner counted`);
  if (Number(body.shoots) > 1) parts.push(`${body.shoots} stems`);
  if (body.error) parts.push(`± ${Number(body.error).toFixed(1)} m`);
  return parts.filter(Boolean).join(", ");
}

/** A name as it is read: 'Fraxinus sp.' where it stops at the genus. */
export function nameShown(name: string, rank: string): string {
  return rank === "genus" && !/ sp\.$/.test(name) ? `${name} sp.` : name;
}
