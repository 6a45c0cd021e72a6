import { useState } from "react";
import { heightOnStem } from "@/shared/records/labels";
import { useDrawings, type Vocabulary } from "@/shared/records/reads";
import { drawingOf, type Rules, sentenceOf } from "@/shared/records/stemForm";
import { useSite } from "@/shared/site/InSite";
import { useUnits } from "@/shared/site/units";
import { Button, Dialog } from "@/shared/ui";
import { Drawing } from "@/shared/ui/Drawing";

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
          {sentenceOf(told, heightOnStem(breastHeightM, units), rules, vocabulary, units)}
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
