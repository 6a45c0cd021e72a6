import { useState } from "react";
import type { BodyOf } from "@/shared/records/entries";
import { type Body, RecordForm } from "@/shared/records/RecordForm";
import type { Vocabulary } from "@/shared/records/reads";
import { Button, Choice } from "@/shared/ui";

export type Evidence = BodyOf<"clearance">;

interface Props {
  vocabulary: Vocabulary;
  /** the kinds that can close what is open; none: every kind */
  kinds?: string[];
  /** what to call the act of keeping it */
  label?: string;
  onSave: (evidence: Evidence) => void;
}

/** Evidence for a check before work: its kind first, then what that kind is given with, and nothing else. */
export function EvidenceForm({ vocabulary, kinds = [], label = "Save", onSave }: Props) {
  const offered = vocabulary.evidence.flatMap((check) =>
    check.kinds
      .filter((k) => kinds.length === 0 || kinds.includes(k.id))
      .map((k) => ({ ...k, check: check.check, title: check.title })),
  );
  const [chosen, setChosen] = useState(offered[0]?.id ?? "");
  const [draft, setDraft] = useState<Body>({});
  // what is open may have changed since it was chosen
  const kind = offered.find((k) => k.id === chosen) ?? offered[0];
  if (!kind) return <p>Nothing can be told here that closes it.</p>;
  const described = vocabulary.records.kinds.find((k) => k.id === "clearance")?.fields ?? [];
  const fields = kind.asks.flatMap((id) => described.filter((f) => f.id === id));
  const result = String(draft["result"] ?? "");
  const plain = fields.filter((f) => f.id !== "result");
  const words = described.find((f) => f.id === "result")?.words ?? [];
  const lacking = kind.results.length > 0 && !kind.results.includes(result);
  const save = () => onSave({ ...draft, check_closed: kind.check, what: kind.id } as unknown as Evidence);
  return (
    <div className="grid gap-3">
      <Choice
        label="What is told"
        value={kind.id}
        options={offered.map((k) => ({ id: k.id, label: k.label }))}
        onChange={(id) => {
          setChosen(id);
          setDraft({});
        }}
      />
      {kind.results.length > 0 && (
        <Choice
          label="Found"
          value={result}
          options={kind.results.map((id) => ({ id, label: words.find((w) => w.id === id)?.label ?? id }))}
          onChange={(id) => setDraft({ ...draft, result: id })}
        />
      )}
      <RecordForm fields={plain} value={draft} onChange={setDraft} vocabulary={vocabulary} />
      <Button weight="act" className="justify-self-start" disabled={lacking} onClick={save}>
        {label}
      </Button>
    </div>
  );
}
