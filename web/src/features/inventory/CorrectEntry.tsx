import { useState } from "react";
import { newId } from "@/shared/ids";
import { readNumber } from "@/shared/numbers";
import { useKeep } from "@/shared/outbox";
import { entryInWords, unitOf } from "@/shared/records/labels";
import { type Entry, useVocabulary } from "@/shared/records/reads";
import { Button, Dialog, Field, Notice, Select } from "@/shared/ui";

/** A slip put right: the old entry stays, the new one names it. Or it is withdrawn altogether. */
export function CorrectEntry({ entry, onClose }: { entry: Entry; onClose: (keptId: string | null) => void }) {
  const keep = useKeep();
  const vocabulary = useVocabulary();
  const field = rewritten(entry);
  const [value, setValue] = useState(field?.value ?? "");
  const [reason, setReason] = useState("");
  const [wrong, setWrong] = useState("");
  const { what, said } = entryInWords(entry, vocabulary.data);

  const send = async (part: Record<string, unknown>) => {
    const id = newId();
    await keep("correction", {
      id,
      kind: entry.kind,
      reason: reason.trim(),
      recorded_at: new Date().toISOString(),
      ...part,
    });
    onClose(id);
  };
  const replace = () => {
    const next = field?.body(value) ?? "";
    if (typeof next === "string") return setWrong(next);
    void send({ replaces: entry.id, body: next });
  };
  return (
    <Dialog open onOpenChange={(open) => !open && onClose(null)} title={`Correct: ${what}`}>
      <div className="grid gap-4">
        <p>
          It says <strong>{said}</strong>. The entry stays in the strip; what you write here replaces it.
        </p>
        {!field && (
          <p>
            This entry holds more than one reading. Withdraw entry and record it anew on a visit, so that none
            is lost.
          </p>
        )}
        {field && (entry.kind === "condition" || entry.kind === "sign") && (
          <Select label={field.label} value={value} onChange={(e) => setValue(e.target.value)}>
            {(entry.kind === "condition" ? vocabulary.data?.conditions : vocabulary.data?.signs)?.map((w) => (
              <option key={w.id} value={w.id}>
                {w.label}
              </option>
            ))}
          </Select>
        )}
        {field && entry.kind !== "condition" && entry.kind !== "sign" && (
          <Field
            label={field.label}
            inputMode={entry.kind === "measurement" ? "decimal" : "text"}
            value={value}
            onChange={(e) => setValue(e.target.value)}
          />
        )}
        <Field
          label="Why"
          value={reason}
          onChange={(e) => setReason(e.target.value)}
          maxLength={300}
          hint="For who reads it later"
        />
        {wrong && <Notice kind="refused">{wrong}</Notice>}
        <div className="flex flex-wrap gap-2">
          {field && (
            <Button weight="act" onClick={replace}>
              Save correction
            </Button>
          )}
          <Button weight="warn" onClick={() => void send({ retracts: entry.id })}>
            Withdraw entry
          </Button>
        </div>
      </div>
    </Dialog>
  );
}

type Body = Record<string, unknown>;

interface Rewritten {
  label: string;
  value: string;
  /** the whole body with the new value in it, or what is wrong with what was typed */
  body: (value: string) => Body | string;
}

/** What of an entry can be rewritten here; null where rewriting one field would drop others, so that it is withdrawn instead. */
function rewritten(entry: Entry): Rewritten | null {
  const body = entry.body as Body;
  const plain = (field: string): Rewritten => ({
    label: "Corrected value",
    value: String(body[field] ?? ""),
    body: (value) =>
      value.trim() ? { ...body, [field]: value.trim() } : "Write what is right, or withdraw the entry.",
  });
  switch (entry.kind) {
    case "note":
      return plain("text");
    case "tag":
      return plain("number");
    case "sign":
      return plain("sign");
    case "condition":
      return Object.keys((body.parts as Body | undefined) ?? {}).length ? null : plain("word");
    case "determination":
      return {
        ...plain("entered"),
        // the looks it rests on stay with it; what followed from the old name goes
        body: (value) =>
          value.trim()
            ? { entered: value.trim(), looks: body.looks ?? [], reason: "corrected" }
            : "Write the right name, or withdraw the entry.",
      };
    case "measurement":
      return ofMeasurement(body);
    default:
      return null;
  }
}

const ONE_READING: Record<string, string> = {
  value: "",
  girths_cm: "circumference, ",
  callipers_cm: "callipers, ",
};

/** A figure of one reading is rewritten by that reading; one of several, or of angles, is withdrawn and read anew. */
function ofMeasurement(body: Body): Rewritten | null {
  const raw = Object.entries((body.raw as Body | undefined) ?? {});
  const [key, reading] = raw[0] ?? [];
  if (raw.length !== 1 || key === undefined || !(key in ONE_READING)) return null;
  if (Array.isArray(reading) && (reading.length !== 1 || typeof reading[0] !== "number")) return null;
  const { value: _value, error: _error, shoots: _shoots, thinner: _thinner, ...rest } = body;
  return {
    label: `Corrected value (${ONE_READING[key]}${unitOf(String(body.quantity))})`,
    value: String(Array.isArray(reading) ? reading[0] : reading),
    body: (typed) => {
      const number = readNumber(typed);
      if (number === null || number < 0) return `${typed || "nothing"} is no measurement: a number from 0.`;
      return { ...rest, raw: { [key]: Array.isArray(reading) ? [number] : number } };
    },
  };
}
