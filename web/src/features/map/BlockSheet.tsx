import { useQueryClient } from "@tanstack/react-query";
import { useId, useState } from "react";
import { api, type Schemas, unwrap } from "@/api/client";
import { type Body, RecordForm } from "@/shared/records/RecordForm";
import type { Block, Vocabulary } from "@/shared/records/reads";
import { Button, Notice, Select } from "@/shared/ui";
import { around, asLines, type Boundary, type Corner, polygonsOf, readLines } from "./corners";

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

interface CornersProps {
  /** without corners there is no boundary yet */
  needed: boolean;
  corners: Corner[];
  onCorners: (corners: Corner[]) => void;
}

/** Corners in order around the block: taps on the map add to them, the text is the same for who types. */
function Corners({ needed, corners, onCorners }: CornersProps) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null); // what is being typed; else the corners as they are
  const read = typed === null ? corners : readLines(typed);
  const count = corners.length === 1 ? "1 corner" : `${corners.length} corners`;
  return (
    <div>
      <label htmlFor={id} className="mb-1 block text-sm text-soft">
        Corners: tap them on the map in order, or type them, one on a line: latitude, longitude
      </label>
      <textarea
        id={id}
        rows={5}
        className="w-full rounded-tile border-2 border-rule bg-sheet px-3 py-2 tabular-nums text-ink aria-invalid:border-rust"
        aria-invalid={typeof read === "number" ? true : undefined}
        aria-describedby={`${id}-said`}
        value={typed ?? asLines(corners)}
        onChange={(e) => {
          setTyped(e.target.value);
          const next = readLines(e.target.value);
          if (typeof next !== "number") onCorners(next);
        }}
        onBlur={() => typeof read !== "number" && setTyped(null)}
      />
      <div className="flex items-center justify-between gap-2">
        <p
          id={`${id}-said`}
          role="status"
          className={`text-sm ${typeof read === "number" ? "text-rust" : "text-soft"}`}
        >
          {typeof read === "number"
            ? `Line ${read} is no corner; write it as 40.5001, -79.3002.`
            : corners.length < 3 && (needed || corners.length > 0)
              ? `${count}; at least three are needed.`
              : corners.length === 0
                ? "No new corners: the boundary stays."
                : count}
        </p>
        <Button
          weight="quiet"
          disabled={corners.length === 0}
          onClick={() => onCorners(corners.slice(0, -1))}
        >
          Undo corner
        </Button>
      </div>
    </div>
  );
}

function FromFile({ onFound }: { onFound: (name: string, boundary: Boundary) => void }) {
  const id = useId();
  const [found, setFound] = useState<{ name: string; boundary: Boundary }[]>([]);
  const [wrong, setWrong] = useState("");
  const take = async (file: File | undefined) => {
    if (!file) return;
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
      <label htmlFor={id} className="mb-1 block text-sm text-soft">
        Boundary from a GeoJSON file
      </label>
      <input
        id={id}
        type="file"
        accept=".geojson,.json,application/geo+json"
        className="block w-full text-sm file:mr-3 file:min-h-[44px] file:border-2 file:border-rule file:bg-sheet file:px-3 file:text-ink"
        onChange={(e) => void take(e.target.files?.[0])}
      />
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
