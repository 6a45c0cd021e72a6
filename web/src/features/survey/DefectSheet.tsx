import type { Schemas } from "@/api/client";
import type { BodyOf } from "@/shared/records/entries";
import type { Described } from "@/shared/records/labels";
import { RecordForm } from "@/shared/records/RecordForm";
import { useDrawings, type Vocabulary } from "@/shared/records/reads";
import { Button, Choice, Notice, Select } from "@/shared/ui";
import { Asked } from "./Asked";
import { FileButton } from "./FileButton";

type Defect = BodyOf<"defect">;

interface Props {
  told: Vocabulary["defects"][number];
  body: Defect;
  photographs: number;
  vocabulary: Vocabulary;
  asks: Schemas["AskedAgain"][];
  onPut: (body: Defect) => void;
  onPhotograph: (files: FileList | null) => void;
  onRemove: () => void;
}

const EVERY = ["height_m", "since_year"]; // asked of every defect

/** One defect: where it is, what fits to measure of it, and its photographs. */
export function DefectSheet({
  told,
  body,
  photographs,
  vocabulary,
  asks,
  onPut,
  onPhotograph,
  onRemove,
}: Props) {
  const drawing = useDrawings(vocabulary.version).data?.drawings["defect"]?.[told.id];
  const fields = vocabulary.records.kinds.find((k) => k.id === "defect")?.fields ?? [];
  const asked = [...told.measures, ...EVERY].flatMap((id) => fields.find((f) => f.id === id) ?? []);
  const sides = fields.find((f) => f.id === "side")?.words ?? [];
  const named = (f: Described): Described =>
    f.id === "extent_percent" ? { ...f, meaning: `The ${told.extent}.` } : f;
  return (
    <fieldset className="grid gap-3 border border-rule p-2">
      <legend className="px-1 font-bold">{told.label}</legend>
      <div className="flex items-start gap-3">
        {drawing && (
          <img
            alt=""
            className="h-24 w-24 shrink-0 bg-[#fdfaf2]"
            src={`data:image/svg+xml,${encodeURIComponent(drawing)}`}
          />
        )}
        <p className="text-sm">
          {told.help}.
          {photographs > 0 && ` ${photographs} ${photographs === 1 ? "photograph" : "photographs"}.`}
        </p>
      </div>
      <Asked asks={asks} />
      {told.caution && <Notice kind="caution">{told.caution}</Notice>}
      <div className="flex flex-wrap items-end gap-2">
        <Select
          label="On the"
          className="flex-1"
          value={body.part}
          onChange={(e) => onPut({ ...body, part: e.target.value as Defect["part"] })}
        >
          {told.parts.map((p) => (
            <option key={p}>{p}</option>
          ))}
        </Select>
        <FileButton label="Photograph it" camera onFiles={onPhotograph} />
        <Button weight="warn" aria-label={`Remove ${told.label}`} onClick={onRemove}>
          ×
        </Button>
      </div>
      <Choice
        label="Side"
        tight
        value={body.side ?? ""}
        onChange={(side) => onPut({ ...body, side: side as NonNullable<Defect["side"]> })}
        options={sides}
      />
      <div className="grid grid-cols-2 items-start gap-3">
        <RecordForm
          fields={asked.map(named)}
          value={body as unknown as Record<string, unknown>}
          onChange={(next) => onPut(next as unknown as Defect)}
          vocabulary={vocabulary}
        />
      </div>
    </fieldset>
  );
}
