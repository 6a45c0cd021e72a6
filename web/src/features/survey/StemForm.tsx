import { useState } from "react";
import { heightOnStem } from "@/shared/records/labels";
import { useDrawings, type Vocabulary } from "@/shared/records/reads";
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
  const drawn = useDrawings(vocabulary.version).data?.drawings["stem_form"];
  const told = vocabulary.stem_forms.find((f) => f.id === form) ?? vocabulary.stem_forms[0];
  if (!told) return null;
  return (
    <div className="flex items-center gap-3">
      <Drawing svg={drawn?.[told.id]} />
      <div>
        <p className="text-sm leading-snug sm:text-base">
          {sentence(told, heightOnStem(breastHeightM, units))}
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
                <Drawing svg={drawn?.[f.id]} small />
                {f.label}
              </Button>
            </li>
          ))}
        </ul>
      </Dialog>
    </div>
  );
}

const sentence = (form: Form, breastHeight: string) => (form.help ?? "").replace(/\bH\b/g, breastHeight);

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
