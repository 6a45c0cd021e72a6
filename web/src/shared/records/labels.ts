import { useSite } from "@/shared/site/InSite";
import { type Units, useUnits } from "@/shared/site/units";
import type { BodyOf, Kind } from "./entries";
import { useVocabulary, type Vocabulary } from "./reads";

export type Described = Vocabulary["records"]["kinds"][number]["fields"][number];
type Character = Vocabulary["characters"][number];
type Body = Record<string, unknown>;
/** What is needed to put an entry in words. */
export type Shown = { [K in Kind]: { kind: K; body?: BodyOf<K> } }[Kind];

/** Order in which the entries of a visit are read: as the core lists the kinds, then by quantity and time. */
export function inReadingOrder<T extends Shown & { recorded_at: string; id: string }>(
  entries: T[],
  vocabulary?: Vocabulary,
): T[] {
  const order = new Map(vocabulary?.records.kinds.map((k, i) => [k.id, i]));
  const quantities = vocabulary?.records.quantities.map((q) => q.id) ?? [];
  const quantity = (e: T) => (e.kind === "measurement" ? quantities.indexOf(e.body?.quantity ?? "") : 0);
  return [...entries].sort(
    (a, b) =>
      (order.get(a.kind) ?? 0) - (order.get(b.kind) ?? 0) ||
      quantity(a) - quantity(b) ||
      a.recorded_at.localeCompare(b.recorded_at) ||
      a.id.localeCompare(b.id),
  );
}

/** What was seen, in words: 'opposite', '9, 10, 9, 11', 'looked, not there'. */
export function seenInWords(
  seen: {
    states?: string[] | undefined;
    absent?: string[] | undefined;
    values?: number[] | undefined;
    k?: number | null | undefined;
    n?: number | null | undefined;
    none?: boolean | undefined;
    skipped?: boolean | undefined;
    applies?: boolean | undefined;
  },
  character?: Character,
): string {
  if (seen.none) return "looked, not there";
  if (seen.applies === false) return "does not apply";
  if (seen.skipped) return "not looked";
  if (seen.values?.length)
    return `${seen.values.join(", ")}${character?.unit && character.kind === "measure" ? ` ${character.unit}` : ""}`;
  const label = (s: string) => character?.states.find((o) => o.id === s)?.label ?? s.replaceAll("_", " ");
  return [
    (seen.states ?? []).map(label).join(", "),
    seen.n ? `on ${seen.k} of ${seen.n}` : "",
    seen.absent?.length ? `no ${seen.absent.map(label).join(", no ")}` : "",
  ]
    .filter(Boolean)
    .join(", ");
}

/** How entries are put in words: the vocabulary, the site's units, and how it shows grades. */
export interface Wording {
  vocabulary?: Vocabulary | undefined;
  units: Units;
  scale?: string | undefined;
}

/** The wording of the site at hand. */
export function useWording(): Wording {
  const vocabulary = useVocabulary().data;
  return { vocabulary, units: useUnits(), scale: useSite()?.condition_scale };
}

/** One entry as a line: what it is, and the figure or words. */
export function entryInWords(entry: Shown, wording: Wording): { what: string; said: string } {
  const { vocabulary, scale = "words" } = wording;
  const kind = vocabulary?.records.kinds.find((k) => k.id === entry.kind);
  const body: Body = { ...entry.body };
  const field = (id: string) => kind?.fields.find((f) => f.id === id);
  const rest = (...shown: string[]) =>
    (kind?.fields ?? [])
      .filter(
        (f) => !shown.includes(f.id) && !f.computed && !UNREAD.includes(f.type) && !HIDDEN.includes(f.id),
      )
      .flatMap((f) => valueInWords(f, body[f.id], wording));
  if (entry.kind === "observation") {
    const character = vocabulary?.characters.find((c) => c.id === body["character"]);
    const said = [seenInWords(body, character), ...rest(...SEEN_FIELDS)].join(", ");
    return {
      what: character?.label ?? String(body["character"]),
      said: `${said} (${body["certainty"] ?? "likely"})`,
    };
  }
  if (entry.kind === "measurement") {
    const quantity = vocabulary?.records.quantities.find((q) => q.id === body["quantity"]);
    return {
      what: quantity?.label ?? String(body["quantity"]),
      said: measureInWords(entry, quantity?.unit ?? "", wording.units, rest),
    };
  }
  const what = kind?.label ?? entry.kind.replaceAll("_", " ");
  switch (entry.kind) {
    case "determination": {
      const chance = entry.body?.probability ? `${Math.round(entry.body.probability * 100)} %` : "";
      const name = nameShown(entry.body?.name || entry.body?.entered || "", entry.body?.name_rank ?? "");
      return { what, said: [name, chance, entry.body?.reason].filter(Boolean).join(", ") };
    }
    case "condition":
      return {
        what,
        said: conditionInWords(
          body,
          vocabulary,
          scale,
          rest("word", "parts", "leafless", "base_visible", "crown_visible"),
        ),
      };
    case "clock_confirmed":
      return { what: "Date", said: "confirmed" };
    case "sign": {
      const absent = entry.body?.present === false ? "looked for, not there" : "";
      const sign = valueInWords(field("sign"), body["sign"], wording);
      return { what, said: [...sign, absent, ...rest("sign", "present")].filter(Boolean).join(", ") };
    }
    case "diagnosis": {
      const cause = valueInWords(field("cause"), body["cause"], wording);
      const verdict = cause.length ? cause : valueInWords(field("verdict"), body["verdict"], wording);
      const chance = entry.body?.probability ? [`${Math.round(entry.body.probability * 100)} %`] : [];
      const standing = valueInWords(field("standing"), body["standing"], wording);
      const more = rest("verdict", "cause", "standing", "probability", "host", "engine");
      return { what, said: [...verdict, ...standing, ...chance, ...more].join(", ") };
    }
    case "risk":
      return { what, said: entry.body ? riskInWords(entry.body, kind) : "" };
    default: {
      const main = kind?.main ?? "";
      const first = valueInWords(field(main), body[main], wording);
      if (entry.kind === "photo" && !first.length && !body["defect"]) first.push("whole plant");
      return { what, said: [...first, ...rest(main)].join(", ") };
    }
  }
}

const UNREAD = ["id", "row"]; // ids are for the record, readings have a form of their own
const HIDDEN = ["sha256", "bytes", "unit_entered"];
const SEEN_FIELDS = [
  "character",
  "states",
  "absent",
  "values",
  "k",
  "n",
  "none",
  "skipped",
  "applies",
  "certainty",
];

/** A value as a phrase: a word alone, a number with its label and unit; nothing where there is none. */
export function valueInWords(
  field: Described | undefined,
  value: unknown,
  { vocabulary, units }: Wording,
): string[] {
  if (value === undefined || value === null || value === "" || field === undefined) return [];
  const [, label = "", unit = ""] = field.label.match(/^(.*?)(?: \((.*)\))?$/) ?? [];
  const named = label.charAt(0).toLowerCase() + label.slice(1);
  switch (field.type) {
    case "word":
      return [field.words?.find((w) => w.id === value)?.label ?? String(value)];
    case "listed":
      return [listed(field, vocabulary).find((w) => w.id === value)?.label ?? String(value)];
    case "flag":
      return value === true ? [named] : field.required ? [`not ${named}`] : [];
    case "number":
    case "whole":
      return [
        field.unit
          ? `${named} ${units.typed(Number(value), field.unit)} ${units.label(field.unit)}`
          : `${named} ${value}${unit ? ` ${unit}` : ""}`,
      ];
    case "several": {
      const many = value as unknown[];
      if (field.of?.type === "id" || many.length === 0) return [];
      const words = field.of?.words;
      if (words) return [many.map((m) => words.find((w) => w.id === m)?.label ?? String(m)).join(", ")];
      return [
        field.of?.type === "row" ? `${many.length} ${many.length === 1 ? "row" : "rows"}` : many.join(", "),
      ];
    }
    case "day":
      return [`${named} ${value}`];
    default:
      return typeof value === "string" ? [value] : [];
  }
}

/** The words of a vocabulary that grows with the flora. */
export function listed(
  field: Pick<Described, "vocabulary">,
  v?: Vocabulary,
): { id: string; label: string }[] {
  if (!v) return [];
  switch (field.vocabulary) {
    case "characters":
      return v.characters;
    case "signs":
      return v.signs;
    case "causes":
      return v.causes;
    case "work rules":
      return v.work_rules;
    case "acts":
      return v.acts;
    case "climbers":
      return v.climbers;
    case "defects":
      return v.defects;
    case "stem forms":
      return v.stem_forms;
    case "areas":
      return v.areas;
    case "condition parts":
      return v.condition_parts;
    default:
      return [];
  }
}

const GRADES = ["failed", "bad", "poor", "fair", "good"];

/** A grade of 0 to 4 as the site shows it. */
export function gradeInWords(grade: number, scale: string): string {
  if (scale === "five_points") return `${Math.round(grade) + 1} of 5`;
  return scale === "percent" ? `${Math.round(25 * grade)} %` : (GRADES[Math.round(grade)] ?? "");
}

/** The word, and where it was graded by parts, the parts. */
function conditionInWords(
  body: Body,
  vocabulary: Vocabulary | undefined,
  scale: string,
  rest: string[],
): string {
  const word = vocabulary?.conditions.find((c) => c.id === body["word"])?.label ?? String(body["word"] ?? "");
  const given = (body["parts"] as Record<string, number | string> | undefined) ?? {};
  const order = vocabulary?.condition_parts.map((p) => p.id) ?? [];
  const parts = Object.entries(given).sort(([a], [b]) => order.indexOf(a) - order.indexOf(b));
  const seen = (["base_visible", "crown_visible"] as const).map((part) => {
    const how = vocabulary?.judged[part]?.find((w) => w.id === body[part])?.label;
    return how && `${part.split("_")[0]} seen ${how}`.replace("seen not visible", "not visible");
  });
  const label = (part: string) => vocabulary?.condition_parts.find((p) => p.id === part)?.label ?? part;
  const graded = parts.map(
    ([part, grade]) =>
      `${label(part)} ${grade === "not_seen" ? "not seen" : gradeInWords(Number(grade), scale)}`,
  );
  const needs = vocabulary?.records.kinds
    .find((k) => k.id === "condition")
    ?.fields.find((f) => f.id === "veteran_needs")
    ?.words?.find((w) => w.id === body["veteran_needs"])?.label;
  return [
    qualified(word, body["at_most"] === true, body["leafless"] === true),
    ...graded,
    ...seen,
    ...rest,
    needs && `needs: ${needs}`,
  ]
    .filter(Boolean)
    .join("; ");
}

/** A worksheet in a line: what it reads, its rows, and what was done and called for. */
function riskInWords(
  sheet: BodyOf<"risk">,
  kind: Vocabulary["records"]["kinds"][number] | undefined,
): string {
  const words = (id: string, value: unknown) =>
    kind?.fields.find((f) => f.id === id)?.words?.find((w) => w.id === value)?.label ?? "";
  const rows = sheet.rows.map((r) => {
    const after = r.residual && r.residual !== r.rating ? `, after the work ${r.residual}` : "";
    return `${r.part || "part"} on ${r.target || "target"}${r.rating ? ` ${r.rating}${after}` : ""}`;
  });
  return [
    sheet.reads || "not rated yet",
    ...rows,
    sheet.years ? `within ${sheet.years} ${sheet.years === 1 ? "year" : "years"}` : "",
    words("level", sheet.level),
    sheet.kept_out && `people kept out: ${words("kept_out", sheet.kept_out)}`,
    sheet.called && `called: ${sheet.called}`,
    sheet.next_inspection
      ? `next inspection by ${sheet.next_inspection}`
      : sheet.no_next
        ? "no next inspection set"
        : "",
  ]
    .filter(Boolean)
    .join("; ");
}

/** A condition with what qualifies it: 'at most fair, winter view'. */
export const qualified = (word: string, atMost: boolean, inWinter: boolean) =>
  word && `${atMost ? "at most " : ""}${word}${inWinter ? ", winter view" : ""}`;

/** The condition of a plant as it is known now. */
export const conditionNow = (row: {
  condition: string;
  condition_at_most: boolean;
  condition_in_winter: boolean;
}) => qualified(row.condition.replaceAll("_", " "), row.condition_at_most, row.condition_in_winter);

const PLAIN = ["diameters_cm", "circumferences_cm", "callipers_cm", "radii_m", "spreads_m"];

/** A height of measurement: '1.37 m', '4.5 ft'. */
export const heightOnStem = (metres: number, units: Units) =>
  units.shown(metres, "m", units.system === "metric" ? 2 : 1);

function measureInWords(
  entry: Extract<Shown, { kind: "measurement" }>,
  si: string,
  units: Units,
  rest: (...shown: string[]) => string[],
): string {
  const body = entry.body;
  if (!body) return "";
  const [method = "", readings] = Object.entries(body.raw)[0] ?? [];
  // a visit that is not sent yet has readings, and a figure only where that is the reading
  const value = body.value ?? body.raw.value;
  const figure =
    body.stems === 0
      ? "no figure, all thinner than is measured"
      : value != null
        ? figureInWords(value, si, units)
        : readingsInWords(method, readings, units);
  const parts = [
    figure,
    ...rest(
      "quantity",
      "raw",
      "as_entered",
      "method",
      "combine",
      "least_cm",
      "thinner",
      "stem_form",
      "at_height_m",
    ),
  ];
  parts.splice(1, 0, METHOD_WORDS[body.method ?? "taped"] ?? "");
  if (body.at_height_m) parts.splice(2, 0, `at ${heightOnStem(body.at_height_m, units)}`);
  if (body.stem_form && body.stem_form !== "upright") parts.push(body.stem_form.replaceAll("_", " "));
  if (body.thinner) parts.push(`${body.thinner} thinner counted`);
  if ((body.stems ?? 1) > 1) parts.push(`${body.stems} stems`);
  if (body.error_m) parts.push(`± ${units.shown(body.error_m, "m")}`);
  // in another unit than it is shown in, or as several readings: what was typed says more
  if (body.as_entered && body.as_entered !== figure) parts.push(`entered as ${body.as_entered}`);
  return parts.filter(Boolean).join(", ");
}

function figureInWords(value: number, si: string, units: Units): string {
  if (si === "/cm") return `${value.toFixed(1)} to the cm`;
  return units.shown(value, si, si === "%" ? 0 : undefined);
}

function readingsInWords(method: string, readings: unknown, units: Units): string {
  if (!PLAIN.includes(method)) return Object.values((readings as object | undefined) ?? {}).join(" / ");
  const si = method.endsWith("_cm") ? "cm" : "m";
  const numbers = [readings].flat(2) as number[];
  return `${numbers.map((n) => units.typed(n, si)).join(", ")} ${units.label(si)}`;
}

export const METHOD_WORDS: Record<string, string> = {
  taped: "tape",
  estimated: "by eye",
  instrument: "instrument",
  paced: "paced",
};

/** A name as it is read: 'Fraxinus sp.' where it stops at the genus. */
export function nameShown(name: string, rank: string): string {
  return rank === "genus" && !/ sp\.$/.test(name) ? `${name} sp.` : name;
}

/** Numbers typed with spaces or semicolons between them, in the stored unit; null where one of them is none. */
export function numbersOf(text: string, units: Units, si: string): number[] | null {
  const read = text
    .split(/[\s;]+/)
    .filter(Boolean)
    .map((t) => units.read(t, si));
  return read.includes(null) ? null : (read as number[]);
}
