import { useState } from "react";
import { newId } from "@/shared/ids";
import { useKeep } from "@/shared/outbox";
import { type Entry, useVocabulary } from "@/shared/records/reads";
import { entryInWords, unitOf } from "@/shared/records/say";
import { Button, Dialog, Field, Notice, Select } from "@/shared/ui";

type Body = Record<string, unknown>;

/** A slip put right: the old entry stays, the new one names it. Or it is taken back altogether. */
export function CorrectEntry({ entry, onClose }: { entry: Entry; onClose: (keptId: string | null) => void }) {
  const keep = useKeep();
  const vocabulary = useVocabulary();
  const body = entry.body as Body;
  const [value, setValue] = useState(String(body[editable(entry)] ?? ""));
  const [reason, setReason] = useState("");
  const [wrong, setWrong] = useState("");
  const { what, said } = entryInWords(entry, vocabulary.data);

  const send = async (part: Record<string, unknown>) => {
    const id = newId();
    await keep("correction", { id, kind: entry.kind, reason: reason.trim(), recorded_at: new Date().toISOString(), ...part });
    onClose(id);
  };
  const replace = () => {
    const next = changed(entry, value);
    if (typeof next === "string") return setWrong(next);
    void send({ replaces: entry.id, body: next });
  };
  return (
    <Dialog open onOpenChange={(open) => !open && onClose(null)} title={`Correct: ${what}`}>
      <div className="grid gap-4">
        <p>
          It says <strong>{said}</strong>. The entry stays in the strip; what you write here replaces it.
        </p>
        <Editor entry={entry} value={value} onChange={setValue} />
        <Field label="Why" value={reason} onChange={(e) => setReason(e.target.value)} maxLength={300} hint="For who reads it later" />
        {wrong && <Notice kind="refused">{wrong}</Notice>}
        <div className="flex flex-wrap gap-2">
          {editable(entry) && (
            <Button weight="act" onClick={replace}>
              Keep the correction
            </Button>
          )}
          <Button weight="warn" onClick={() => void send({ retracts: entry.id })}>
            Take it back
          </Button>
        </div>
      </div>
    </Dialog>
  );
}

/** The field of the body that can be rewritten here; empty for kinds that are only taken back. */
function editable(entry: Entry): string {
  const fields: Record<string, string> = {
    measurement: "value",
    condition: "word",
    note: "text",
    tag: "number",
    determination: "entered",
    sign: "sign",
  };
  return fields[entry.kind] ?? "";
}

function Editor({ entry, value, onChange }: { entry: Entry; value: string; onChange: (value: string) => void }) {
  const vocabulary = useVocabulary();
  const body = entry.body as Body;
  if (!editable(entry)) return <p>This kind of entry is not rewritten. Take it back and record it anew on a visit.</p>;
  if (entry.kind === "condition" || entry.kind === "sign") {
    const words = (entry.kind === "condition" ? vocabulary.data?.conditions : vocabulary.data?.signs) ?? [];
    return (
      <Select label="Right is" value={value} onChange={(e) => onChange(e.target.value)}>
        {words.map((w) => (
          <option key={w.id} value={w.id}>
            {w.label}
          </option>
        ))}
      </Select>
    );
  }
  const unit = entry.kind === "measurement" ? ` (${unitOf(String(body.quantity))})` : "";
  return (
    <Field
      label={`Right is${unit}`}
      inputMode={entry.kind === "measurement" ? "decimal" : "text"}
      value={value}
      onChange={(e) => onChange(e.target.value)}
    />
  );
}

/** The new body, or what is wrong with what was typed. The server judges it again. */
function changed(entry: Entry, value: string): Body | string {
  const body = entry.body as Body;
  if (!value.trim()) return "Write what is right, or take the entry back.";
  if (entry.kind === "measurement") {
    const number = Number(value.replace(",", "."));
    if (!Number.isFinite(number) || number < 0) return `${value} is no measurement: a number from 0.`;
    return {
      quantity: body.quantity,
      raw: { value: number },
      method: body.method,
      ...(body.at_height_m ? { at_height_m: body.at_height_m } : {}),
      ...(body.stem_form ? { stem_form: body.stem_form } : {}),
    };
  }
  if (entry.kind === "determination") return { entered: value.trim(), reason: "corrected" };
  if (entry.kind === "condition") return { word: value };
  if (entry.kind === "sign") return { sign: value, present: body.present !== false };
  if (entry.kind === "tag") return { number: value.trim() };
  return { text: value.trim() };
}
