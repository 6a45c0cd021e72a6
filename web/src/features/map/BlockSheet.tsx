import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, unwrap } from "@/api/client";
import { type Body, RecordForm } from "@/shared/records/RecordForm";
import type { Block, Vocabulary } from "@/shared/records/reads";
import { Button, Notice, Select } from "@/shared/ui";
import { Corners } from "./Corners";
import { around, type Boundary, type Corner, polygonsOf } from "./corners";
import { GeoJsonInput } from "./GeoJsonInput";

interface Props {
  siteId: string;
  /** the block that is changed; none: a new one */
  block: Block | undefined;
  corners: Corner[];
  onCorners: (corners: Corner[]) => void;
  onDone: (blockId: string | null) => void;
  /** read before the sheet opens: what is known of the block starts from its fields */
  vocabulary: Vocabulary;
}

/** A block by its boundary: tapped on the map, typed as corners, or from a GeoJSON file; and what is known of it. */
export function BlockSheet({ siteId, block, corners, onCorners, onDone, vocabulary }: Props) {
  const client = useQueryClient();
  const fields = (vocabulary.records.office["block"] ?? []).filter((f) => f.id !== "boundary");
  const [draft, setDraft] = useState<Body>(
    block ? Object.fromEntries(fields.map((f) => [f.id, block[f.id as keyof Block]])) : {},
  );
  const [fromFile, setFromFile] = useState<Boundary | null>(null);
  const [named, setNamed] = useState(0);
  const [wrong, setWrong] = useState("");
  const boundary = fromFile ?? (corners.length >= 3 ? around(corners) : undefined);
  const save = async () => {
    try {
      if (!boundary && !block) throw new Error("A boundary needs at least three corners.");
      const body = { ...draft, ...(boundary ? { boundary } : {}) } as Schemas["BlockIn"];
      const saved = block
        ? unwrap(
            await api.PATCH("/api/blocks/{block_id}/", { params: { path: { block_id: block.id } }, body }),
          )
        : unwrap(
            await api.POST("/api/sites/{site_id}/blocks/", { params: { path: { site_id: siteId } }, body }),
          );
      await client.invalidateQueries({ queryKey: ["blocks"] });
      onDone(saved.id);
    } catch (error) {
      setWrong(error instanceof Error ? error.message : "The block was not saved.");
    }
  };
  return (
    <div className="grid gap-3">
      <h1 className="text-2xl">{block ? `Change ${block.name}` : "New block"}</h1>
      {block && (
        <p className="text-sm text-soft">
          {block.plant_count} plants stay in it, also those outside a new boundary. Without new corners the
          boundary stays.
        </p>
      )}
      <FromFile
        onFound={(name, found) => {
          setFromFile(found);
          onCorners((found.coordinates[0] ?? []).slice(0, -1));
          if (name && !draft["name"]) {
            setDraft({ ...draft, name });
            setNamed(named + 1);
          }
        }}
      />
      <Corners
        least={3}
        needed={!block}
        corners={corners}
        onCorners={(next) => {
          setFromFile(null);
          onCorners(next);
        }}
      />
      {fromFile && fromFile.coordinates.length > 1 && (
        <p className="text-sm text-soft">
          {fromFile.coordinates.length - 1} clearings in it come from the file.
        </p>
      )}
      <RecordForm key={named} fields={fields} value={draft} onChange={setDraft} vocabulary={vocabulary} />
      {wrong && <Notice kind="refused">{wrong}</Notice>}
      <Button weight="act" onClick={() => void save()}>
        {block ? "Save block" : "Make the block"}
      </Button>
      <Button onClick={() => onDone(null)}>Cancel</Button>
    </div>
  );
}

function FromFile({ onFound }: { onFound: (name: string, boundary: Boundary) => void }) {
  const [found, setFound] = useState<{ name: string; boundary: Boundary }[]>([]);
  const [wrong, setWrong] = useState("");
  const take = async (file: File) => {
    try {
      const polygons = polygonsOf(await file.text());
      setWrong("");
      setFound(polygons);
      const [only] = polygons;
      if (only) onFound(only.name, only.boundary);
    } catch (error) {
      setFound([]);
      setWrong(`${file.name}: ${(error as Error).message}`);
    }
  };
  return (
    <div>
      <GeoJsonInput label="Boundary from a GeoJSON file" onFile={(file) => void take(file)} />
      {wrong && <Notice kind="refused">{wrong}</Notice>}
      {found.length > 1 && (
        <Select
          label="Which of its polygons"
          onChange={(e) => {
            const one = found[Number(e.target.value)];
            if (one) onFound(one.name, one.boundary);
          }}
        >
          {found.map((f, i) => (
            <option key={i} value={i}>
              {f.name || `polygon ${i + 1}`}
            </option>
          ))}
        </Select>
      )}
    </div>
  );
}
