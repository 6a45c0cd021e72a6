import type { Units } from "@/shared/site/units";
import type { Vocabulary } from "./reads";

type Form = Vocabulary["stem_forms"][number];

/** The conventions of a site by which schools differ. */
export type Rules = Record<string, unknown>;

/** The name of the drawing of a form by the rules of the site. */
export const drawingOf = (form: Form, rules: Rules) =>
  form.by ? `${form.id} ${ruleOf(form, rules)}` : form.id;

const ruleOf = (form: Form, rules: Rules): string =>
  form.by in rules ? String(rules[form.by]) : (Object.keys(form.rules)[0] ?? "");

/** The sentence of a form by the rules of the site; what the site chose stands in the place of its name in braces. */
export function sentenceOf(
  form: Form,
  breastHeight: string,
  rules: Rules,
  vocabulary: Vocabulary,
  units: Units,
): string {
  const said = form.by ? (form.rules[ruleOf(form, rules)] ?? "") : (form.help ?? "");
  return said
    .replace(/\{([0-9.]+) m\}/g, (_, metres: string) => units.shown(Number(metres), "m", 2))
    .replace(/\{(\w+)\}/g, (_, setting: string) => {
      const field = vocabulary.records.conventions.find((f) => f.id === setting);
      const word = String(rules[setting] ?? field?.default ?? "");
      return field?.words?.find((w) => w.id === word)?.label ?? word;
    })
    .replace(/\bH\b/g, breastHeight);
}
