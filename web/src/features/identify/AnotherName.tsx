import { useState } from "react";
import { NameSearch } from "@/shared/names/NameSearch";
import { nameShown } from "@/shared/records/labels";
import type { Vocabulary } from "@/shared/records/reads";
import { Button, Choice, Dialog, Field } from "@/shared/ui";
import { lineAbove } from "./lineAbove";
import type { Answer } from "./naming";

interface Props {
  answer: Answer;
  vocabulary: Vocabulary;
  onAccept: (taxon: string, name: string, probability: number | undefined, reason?: string) => void;
}

/** Keeping a name above or below the one supported, or one that is known: always with the reason. */
export function AnotherName({ answer, vocabulary, onAccept }: Props) {
  const [open, setOpen] = useState(false);
  const [chosen, setChosen] = useState<{ taxon: string; name: string } | null>(null);
  const [reason, setReason] = useState("");
  const from = answer.supported?.taxon ?? answer.candidates.find((c) => c.rank !== "unlisted")?.taxon;
  const above = lineAbove(vocabulary, from);
  const below = answer.candidates
    .filter((c) => c.rank !== "unlisted" && c.taxon !== answer.supported?.taxon)
    .slice(0, 4);
  const options = [
    ...above.map((t) => ({ id: t.id, label: nameShown(t.name, t.rank), hint: `less far: ${t.rank}` })),
    ...below.map((c) => ({ id: c.taxon, label: c.name, hint: `${Math.round(c.probability * 100)} %` })),
  ];
  const probability = answer.candidates.find((c) => c.taxon === chosen?.taxon)?.probability;
  return (
    <>
      <Button weight="quiet" onClick={() => setOpen(true)}>
        Another name or rank
      </Button>
      <Dialog open={open} onOpenChange={setOpen} title="Another name">
        <div className="grid gap-4">
          <Choice
            label="Above or below the name supported"
            wide
            value={chosen?.taxon ?? ""}
            onChange={(id) => setChosen({ taxon: id, name: options.find((o) => o.id === id)?.label ?? id })}
            options={options}
          />
          <NameSearch
            label="Or a name you know: scientific or common"
            onTake={(n) => setChosen({ taxon: n.taxon, name: nameShown(n.name, n.rank) })}
          />
          <Field label="Why" value={reason} onChange={(e) => setReason(e.target.value)} maxLength={300} />
          <Button
            weight="act"
            disabled={!chosen || !reason.trim()}
            onClick={() => chosen && onAccept(chosen.taxon, chosen.name, probability, reason.trim())}
          >
            {chosen ? `Accept ${chosen.name}` : "Pick a name"}
          </Button>
        </div>
      </Dialog>
    </>
  );
}
