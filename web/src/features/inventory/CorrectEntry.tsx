import { useState } from "react";
import { newId } from "@/shared/ids";
import { NameSearch } from "@/shared/names/NameSearch";
import { useSave } from "@/shared/outbox";
import type { EntryIn } from "@/shared/records/entries";
import { type Described, entryInWords, useWording } from "@/shared/records/labels";
import { type Body, RecordForm } from "@/shared/records/RecordForm";
import type { Entry, Vocabulary } from "@/shared/records/reads";
import type { Units } from "@/shared/site/units";
import { Button, Dialog, Field, Notice } from "@/shared/ui";

/** An entry corrected: the whole of it, in a new entry that names the old one, which stays. Or it is withdrawn. */
export function CorrectEntry({
  entry,
  onClose,
}: {
  entry: Entry;
  onClose: (savedId: string | null) => void;
}) {
  const save = useSave();
  const wording = useWording();
  const { vocabulary } = wording;
  const fields = vocabulary?.records.kinds.find((k) => k.id === entry.kind)?.fields ?? [];
  const [body, setBody] = useState<Body>({ ...entry.body });
  const [reason, setReason] = useState("");
  const { what, said } = entryInWords(entry, wording);
  const quantity = entry.kind === "measurement" ? entry.body?.quantity : undefined;
  const si = vocabulary?.records.quantities.find((q) => q.id === quantity)?.unit ?? "";
  const wrong = missing(fields, body);

  const send = async (part: Record<string, unknown>) => {
    const id = newId();
    const head = { id, kind: entry.kind, reason: reason.trim(), recorded_at: new Date().toISOString() };
    await save("correction", { ...head, ...part } as EntryIn); // judged again by the server, field by field
    onClose(id);
  };
  return (
    <Dialog open onOpenChange={(open) => !open && onClose(null)} title={`Correct: ${what}`}>
      <div className="grid gap-4">
        <p>
          Recorded as <strong>{said}</strong>. The entry stays in History; what you enter here takes its
          place.
        </p>
        {vocabulary &&
          (entry.kind === "determination" ? (
            <NameForm body={body} onChange={setBody} />
          ) : (
            <RecordForm
              fields={fieldsFor(entry, fields, vocabulary)}
              value={body}
              onChange={setBody}
              vocabulary={vocabulary}
            />
          ))}
        <Field
          label="Reason"
          value={reason}
          onChange={(e) => setReason(e.target.value)}
          maxLength={300}
          hint="For whoever reads it later"
        />
        {wrong && <Notice kind="caution">{wrong}</Notice>}
        <div className="flex flex-wrap gap-2">
          <Button
            weight="act"
            disabled={Boolean(wrong)}
            onClick={() =>
              void send({
                replaces: entry.id,
                body: withoutComputed(fields, reentered(entry, recounted(entry, body), si, wording.units)),
              })
            }
          >
            Save correction
          </Button>
          <Button weight="warn" onClick={() => void send({ retracts: entry.id })}>
            Withdraw entry
          </Button>
        </div>
      </div>
    </Dialog>
  );
}

/** Another name: what belonged to the old one goes, the observations it rests on stay. */
function NameForm({ body, onChange }: { body: Body; onChange: (body: Body) => void }) {
  const take = (entered: string, taxon?: string) =>
    onChange({
      entered,
      ...(taxon ? { taxon } : {}),
      ...(body["observations"] ? { observations: body["observations"] } : {}),
    });
  return (
    <>
      <p>
        Name: <strong className="latin text-xl">{String(body["entered"])}</strong>
      </p>
      <NameSearch
        label="Corrected name: scientific or common"
        onTake={(n) => take(n.name, n.taxon)}
        asEntered={(words) => take(words)}
      />
    </>
  );
}

/** The fields that a correction may change. Another character, quantity or picture is another entry. */
function fieldsFor(entry: Entry, fields: Described[], vocabulary: Vocabulary): Described[] {
  if (entry.kind === "photo") return fields.filter((f) => !["sha256", "bytes"].includes(f.id));
  if (entry.kind === "measurement") {
    const quantity = vocabulary.records.quantities.find((q) => q.id === entry.body?.quantity);
    const readings = (raw: Described) => ({
      ...raw,
      fields: (raw.fields ?? [])
        .filter((f) => quantity?.readings.includes(f.id) ?? true)
        .map((f) =>
          f.id === "value"
            ? { ...f, label: `${quantity?.label} (${quantity?.unit})`, unit: quantity?.unit ?? "" }
            : f,
        ),
    });
    return fields
      .filter((f) => !["quantity", "unit_entered", "as_entered"].includes(f.id))
      .map((f) => (f.id === "raw" ? readings(f) : f));
  }
  if (entry.kind !== "observation") return fields;
  const character = vocabulary.characters.find((c) => c.id === entry.body?.character);
  const sampled = character?.kind === "count" || character?.kind === "measure";
  const left = ["character", ...(sampled ? ["states", "absent", "k", "n"] : ["values"])];
  return fields
    .filter((f) => !left.includes(f.id))
    .map((f) => (["states", "absent"].includes(f.id) ? { ...f, words: character?.states ?? [] } : f));
}

/** Stems that were counted as thinner because their readings were are counted anew; those entered by hand stay. */
export function recounted(entry: Entry, body: Body): Body {
  if (entry.kind !== "measurement" || !entry.body?.thinner) return body;
  const { diameters_cm = [], circumferences_cm = [], callipers_cm = [] } = entry.body.raw;
  const diameters = [
    ...diameters_cm,
    ...circumferences_cm.map((c) => c / Math.PI),
    ...callipers_cm.map(([a = 0, b = 0]) => Math.sqrt(a * b)),
  ];
  const read = diameters.filter((d) => d < (entry.body?.least_cm ?? 0)).length;
  if (read !== entry.body.thinner || body["thinner"] !== entry.body.thinner) return body;
  const { thinner: _thinner, ...rest } = body;
  return rest;
}

const EXACT = 1e-7;

/** Readings that were corrected are recorded as they were typed, in the units of the site; what had been typed goes. */
export function reentered(entry: Entry, body: Body, si: string, units: Units): Body {
  const unchanged = entry.kind !== "measurement" || equal(body["raw"], entry.body?.raw);
  if (unchanged) return body;
  const { as_entered: _typed, unit_entered: _unit, ...rest } = body;
  const readings = [Object.values((body["raw"] as Body | undefined) ?? {})[0]].flat();
  const numbers = readings.filter((n) => typeof n === "number");
  const typed = numbers.map((n) => units.typed(n, si));
  const same = (n: number, i: number) =>
    Math.abs((units.read(typed[i] ?? "", si) ?? 0) - n) <= EXACT * Math.abs(n);
  if (!numbers.length || numbers.length < readings.length || !numbers.every(same)) return rest;
  const unit = units.label(si);
  return {
    ...rest,
    unit_entered: unit,
    as_entered: typed
      .map((t) => `${t} ${unit}`)
      .join("; ")
      .slice(0, 200),
  };
}

const equal = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/** What follows from the rest is computed anew. */
function withoutComputed(fields: Described[], body: Body): Body {
  const computed = new Set(fields.filter((f) => f.computed).map((f) => f.id));
  const graded = Object.keys((body["parts"] as Body | undefined) ?? {}).length > 0;
  return Object.fromEntries(
    Object.entries(body).filter(([id]) => !computed.has(id) && !(graded && id === "word")),
  );
}

/** The first needed field that is empty, or nothing. */
function missing(fields: Described[], body: Body): string {
  const empty = fields.find((f) => f.required && (body[f.id] === undefined || body[f.id] === ""));
  return empty ? `${empty.label} is needed. To take the entry away, withdraw it.` : "";
}
