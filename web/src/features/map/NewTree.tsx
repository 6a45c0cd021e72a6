import { zodResolver } from "@hookform/resolvers/zod";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { useNavigate } from "react-router";
import { z } from "zod";
import { today } from "@/shared/dates";
import { newId } from "@/shared/ids";
import { useMember } from "@/shared/member";
import { readNumber } from "@/shared/numbers";
import { type ItemBody, useSave } from "@/shared/outbox";
import { emptyDraft, withOne } from "@/shared/records/draft";
import { useSiteOf } from "@/shared/records/place";
import { type Block, type Row, useVocabulary } from "@/shared/records/reads";
import { type Units, useUnitsOf } from "@/shared/site/units";
import { Button, Choice, Field, Notice, Select } from "@/shared/ui";

type How = "tapped" | "typed" | "bearing";
type Origin = NonNullable<ItemBody<"plant">["origin"]>;

const number = (low: number, high: number, what: string) =>
  z
    .string()
    .trim()
    .refine((v) => {
      const value = readNumber(v);
      return value !== null && value >= low && value <= high;
    }, `${what}: a number from ${low} to ${high}`);
const tag = z.string().trim().max(20, "Tag: at most 20 characters");
const [NEAREST_M, FARTHEST_M] = [0.05, 500];
const forms = {
  tapped: z.object({ tag }),
  typed: z.object({ tag, lat: number(-90, 90, "Latitude"), lon: number(-180, 180, "Longitude") }),
};
const bearing = (units: Units) =>
  z.object({
    tag,
    from: z.string().trim().min(1, "Tag of the tree you stand at"),
    bearing: number(0, 360, "Bearing"),
    distance: number(Number(units.typed(NEAREST_M, "m")), Number(units.typed(FARTHEST_M, "m")), "Distance"),
  });
type Given = { tag: string; lat?: string; lon?: string; from?: string; bearing?: string; distance?: string };

/** A new stem: tapped on the map, typed, or sighted from a numbered stem. */
export function NewTree({
  block,
  rows,
  mark,
  onCancel,
}: {
  block: Block;
  rows: Row[];
  mark: [number, number] | null;
  onCancel: () => void;
}) {
  const member = useMember();
  const record = useSave();
  const navigate = useNavigate();
  const vocabulary = useVocabulary();
  const site = useSiteOf(block.id);
  const units = useUnitsOf(site);
  const [how, setHow] = useState<How>("tapped");
  const [form, setForm] = useState<"tree" | "vacant">("tree");
  const [origin, setOrigin] = useState<Origin>(
    ["street", "garden", "park", "hedge"].includes(block.setting ?? "") ? "planted" : "unknown",
  );
  const [stage, setStage] = useState("mature");
  const [missing, setMissing] = useState("");
  const { register, handleSubmit, formState, watch } = useForm<Given>({
    resolver: zodResolver(how === "bearing" ? bearing(units) : forms[how]) as never,
    defaultValues: { tag: "" },
  });
  const twin = rows.find((r) => r.tag && r.tag === watch("tag")?.trim());

  const save = handleSubmit(async (given) => {
    const place = placeOf(how, given, mark, rows, units);
    if (typeof place === "string") return setMissing(place);
    const id = newId();
    const empty = emptyDraft(id, block.id, today(member, site), block.setting ?? "unknown", origin, stage);
    const number = given.tag.trim();
    const draft = number ? { ...empty, ...withOne(empty, "tag", { number }) } : empty;
    const plant = {
      id,
      block: block.id,
      form,
      ...(form === "tree" ? { origin } : {}),
      how_taken: how,
      recorded_at: new Date().toISOString(),
      ...place,
    };
    await record("plant", plant, [], form === "tree" ? { plant: id, draft } : undefined);
    if (form === "vacant") return onCancel();
    navigate(`/survey/${id}`);
  });

  const errors = formState.errors;
  return (
    <form onSubmit={(e) => void save(e)} className="grid gap-4" noValidate aria-label="New tree">
      <h1 className="text-2xl">New tree in {block.name}</h1>
      <Choice
        label="What stands here"
        value={form}
        onChange={(v) => setForm(v as typeof form)}
        options={[
          { id: "tree", label: "a tree" },
          { id: "vacant", label: "nothing yet: a planting site" },
        ]}
      />
      <Choice
        label="Location"
        value={how}
        onChange={(v) => setHow(v as How)}
        options={[
          { id: "tapped", label: "Tap the map" },
          { id: "typed", label: "Coordinates" },
          { id: "bearing", label: "Bearing" },
        ]}
      />
      {how === "tapped" &&
        (mark ? (
          <p className="tabular-nums" aria-live="polite">
            At {mark[1].toFixed(6)}, {mark[0].toFixed(6)}. Tap again to move it.
          </p>
        ) : (
          <p>Tap the map where the tree is.</p>
        ))}
      {how === "typed" && (
        <div className="grid grid-cols-2 gap-3">
          <Field
            label="Latitude (degrees)"
            inputMode="decimal"
            error={errors.lat?.message}
            {...register("lat")}
          />
          <Field
            label="Longitude (degrees)"
            inputMode="decimal"
            error={errors.lon?.message}
            {...register("lon")}
          />
        </div>
      )}
      {how === "bearing" && (
        <div className="grid grid-cols-2 gap-3">
          <Field
            className="col-span-2"
            label="From the tree with tag"
            error={errors.from?.message}
            {...register("from")}
          />
          <Field
            label="Bearing (true degrees)"
            inputMode="decimal"
            error={errors.bearing?.message}
            {...register("bearing")}
          />
          <Field
            label={`Distance (${units.label("m")}, level)`}
            inputMode="decimal"
            error={errors.distance?.message}
            {...register("distance")}
          />
        </div>
      )}
      {form === "tree" && (
        <>
          <Field label="Tag" autoComplete="off" error={errors.tag?.message} {...register("tag")} />
          {twin && (
            <Notice kind="caution">
              Tag {twin.tag} is on another tree here. Both are shown until one is changed.
            </Notice>
          )}
          <Choice
            label="Origin"
            value={origin}
            onChange={(v) => setOrigin(v as Origin)}
            options={[
              { id: "wild", label: "wild" },
              { id: "planted", label: "planted" },
              { id: "unknown", label: "not known" },
            ]}
          />
          <Select label="Life stage" value={stage} onChange={(e) => setStage(e.target.value)}>
            {(vocabulary.data?.stages ?? [{ id: "mature", label: "mature" }]).map((s) => (
              <option key={s.id} value={s.id}>
                {s.label}
              </option>
            ))}
          </Select>
        </>
      )}
      {missing && <Notice kind="refused">{missing}</Notice>}
      <div className="flex gap-2">
        <Button type="submit" weight="act" className="flex-1">
          {form === "tree" ? "Save and continue" : "Save the place"}
        </Button>
        <Button onClick={onCancel}>Cancel</Button>
      </div>
    </form>
  );
}

/** The place fields of the plant, or what is missing. */
function placeOf(
  how: How,
  given: Given,
  mark: [number, number] | null,
  rows: Row[],
  units: Units,
): Record<string, unknown> | string {
  if (how === "tapped")
    return mark
      ? { lon: mark[0], lat: mark[1] }
      : "Tap the map where the tree stands, or choose another way.";
  if (how === "typed") return { lon: readNumber(given.lon ?? ""), lat: readNumber(given.lat ?? "") };
  const from = rows.find((r) => r.tag === given.from?.trim());
  if (!from) return `No tree with tag ${given.from} in this block. Stand at one that is on the map.`;
  return {
    from_plant: from.id,
    bearing_deg: readNumber(given.bearing ?? ""),
    distance_m: units.read(given.distance ?? "", "m"),
  };
}
