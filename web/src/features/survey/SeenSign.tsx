import { useState } from "react";
import { SignPicture } from "@/shared/health";
import type { BodyOf } from "@/shared/records/entries";
import { RecordForm } from "@/shared/records/RecordForm";
import type { Vocabulary } from "@/shared/records/reads";
import { Button, Choice } from "@/shared/ui";
import { withCount } from "./withCount";

type Sign = BodyOf<"sign">;

interface Props {
  body: Sign;
  vocabulary: Vocabulary;
  onPut: (body: Sign) => void;
  onRemove: () => void;
}

const BY_PART: Record<string, string[]> = {
  bark: ["trunk", "limbs", "base", "upper_crown"],
  crown: ["upper_crown", "lower_crown", "one_side", "one_limb", "whole"],
  leaf: ["lower_crown", "upper_crown", "inner_crown", "one_side", "whole"],
  fruit: ["whole", "one_side"],
  base: ["base", "root_flare", "soil"],
  around: [],
};
const DETAILS = [
  "extent_percent",
  "size_mm",
  "side",
  "first_seen",
  "certainty",
  "wipes_off",
  "circumference_percent",
];

/** A sign that was seen or looked for: how many, where, and more where it tells. */
export function SeenSign({ body, vocabulary, onPut, onRemove }: Props) {
  const [more, setMore] = useState(false);
  const word = vocabulary.signs.find((s) => s.id === body.sign);
  const words = vocabulary.sign_words;
  const absent = body.present === false;
  const places = (words["where"] ?? []).filter((w) => BY_PART[word?.part ?? "crown"]?.includes(w.id));
  const all = vocabulary.records.kinds.find((k) => k.id === "sign")?.fields ?? [];
  const fields = all.filter((f) => DETAILS.includes(f.id) && (f.id !== "size_mm" || word?.sized));
  // the ground is asked for once a number stands; where none was found, it is the count
  const known = absent || typeof body.number === "number";
  const counted = all.filter(
    (f) => word?.counted && ((f.id === "number" && !absent) || (f.id === "over_m2" && known)),
  );
  return (
    <li className={`grid gap-2 rounded-tile border-2 p-2 ${absent ? "border-rule" : "border-moss"}`}>
      <div className="flex items-start gap-3">
        <SignPicture sign={body.sign} version={vocabulary.version} className="size-16 shrink-0" />
        <div className="min-w-0 flex-1">
          <p className="font-bold leading-tight">{word?.label ?? body.sign}</p>
          <p className="text-sm text-soft">
            {absent ? "Looked for, not there." : `Usual mistake: ${word?.mistake ?? ""}`}
          </p>
        </div>
        <Button weight="warn" aria-label={`Remove ${word?.label ?? body.sign}`} onClick={onRemove}>
          ×
        </Button>
      </div>
      {counted.length > 0 && (
        <div className="grid grid-cols-2 items-start gap-3">
          <RecordForm
            fields={counted}
            value={body as unknown as Record<string, unknown>}
            onChange={(next) => onPut(withCount(next as unknown as Sign))}
            vocabulary={vocabulary}
          />
        </div>
      )}
      {!absent && word?.part !== "around" && (
        <>
          <Choice
            label={`How many: ${word?.label ?? ""}`}
            hideLabel
            tight
            value={body.extent ?? ""}
            options={(words["extent"] ?? []).map((w) => ({ id: w.id, label: w.id }))}
            onChange={(extent) => onPut({ ...body, extent: extent as NonNullable<Sign["extent"]> })}
          />
          {places.length > 0 && (
            <Choice
              label={`Where: ${word?.label ?? ""}`}
              hideLabel
              tight
              value={body.where?.[0] ?? ""}
              options={places}
              onChange={(where) => onPut({ ...body, where: [where] as NonNullable<Sign["where"]> })}
            />
          )}
          {more ? (
            <div className="grid grid-cols-2 items-start gap-3">
              <RecordForm
                fields={fields}
                value={body as unknown as Record<string, unknown>}
                onChange={(next) => onPut(next as unknown as Sign)}
                vocabulary={vocabulary}
              />
            </div>
          ) : (
            <Button weight="quiet" className="-ml-2 justify-self-start" onClick={() => setMore(true)}>
              Size, side, since when …
            </Button>
          )}
        </>
      )}
    </li>
  );
}
