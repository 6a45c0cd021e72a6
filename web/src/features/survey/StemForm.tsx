import { useState } from "react";
import { heightOnStem } from "@/shared/records/labels";
import { useDrawings, type Vocabulary } from "@/shared/records/reads";
import { useSite } from "@/shared/site/InSite";
import { useUnits } from "@/shared/site/units";
import { Button, Dialog } from "@/shared/ui";

type Form = Vocabulary["stem_forms"][number];

interface Props {
  vocabulary: Vocabulary;
  form: string;
  breastHeightM: number;
  onForm: (form: string) => void;
}

/** Where the tape goes: one sentence and one drawing for the form of this stem; another form by one tap. */
export function StemForm({ vocabulary, form, breastHeightM, onForm }: Props) {
  const [open, setOpen] = useState(false);
  const units = useUnits();
  const rules: Rules = { ...useSite() };
  const drawn = useDrawings(vocabulary.version).data?.drawings["stem_form"];
  const told = vocabulary.stem_forms.find((f) => f.id === form) ?? vocabulary.stem_forms[0];
  if (!told) return null;
  return (
    <div className="flex items-center gap-3">
      <Drawing svg={drawn?.[drawingOf(told, rules)]} />
      <div>
        <p className="text-sm leading-snug sm:text-base">
          {sentenceOf(told, heightOnStem(breastHeightM, units), rules, vocabulary)}
        </p>
        <button
          type="button"
          className="min-h-[53px] text-left text-sm text-slate underline"
          onClick={() => setOpen(true)}
        >
          The stem is {told.label}. Another form?
        </button>
      </div>
      <Dialog open={open} onOpenChange={setOpen} title="Form of the stem">
        <ul className="grid gap-2 sm:grid-cols-2">
          {vocabulary.stem_forms.map((f) => (
            <li key={f.id}>
              <Button
                aria-pressed={f.id === form}
                weight={f.id === form ? "act" : "plain"}
                className="flex h-full w-full items-center gap-2 text-left"
                onClick={() => {
                  onForm(f.id);
                  setOpen(false);
                }}
              >
                <Drawing svg={drawn?.[drawingOf(f, rules)]} small />
                {f.label}
              </Button>
            </li>
          ))}
        </ul>
      </Dialog>
    </div>
  );
}

/** The conventions of a site by which schools differ. */
type Rules = Record<string, unknown>;

const drawingOf = (form: Form, rules: Rules) => (form.by ? `${form.id} ${ruleOf(form, rules)}` : form.id);

const ruleOf = (form: Form, rules: Rules): string =>
  form.by in rules ? String(rules[form.by]) : (Object.keys(form.rules)[0] ?? "");

/** The sentence of a form by the rules of the site; what the site chose stands in the place of its name in braces. */
export function sentenceOf(form: Form, breastHeight: string, rules: Rules, vocabulary: Vocabulary): string {
  const said = form.by ? (form.rules[ruleOf(form, rules)] ?? "") : (form.help ?? "");
  return said
    .replace(/\{(\w+)\}/g, (_, setting: string) => {
      const field = vocabulary.records.conventions.find((f) => f.id === setting);
      const word = String(rules[setting] ?? field?.default ?? "");
      return field?.words?.find((w) => w.id === word)?.label ?? word;
    })
    .replace(/\bH\b/g, breastHeight);
}

function Drawing({ svg, small = false }: { svg: string | undefined; small?: boolean }) {
  if (!svg) return null;
  return (
    <img
      alt="" // the sentence beside it says the same
      className={`shrink-0 bg-[#fdfaf2] ${small ? "size-14" : "size-20 sm:size-28"}`}
      src={`data:image/svg+xml,${encodeURIComponent(svg)}`}
    />
  );
}
