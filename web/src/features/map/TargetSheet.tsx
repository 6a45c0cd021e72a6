import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, unwrap } from "@/api/client";
import { type Body, RecordForm } from "@/shared/records/RecordForm";
import type { Target, Vocabulary } from "@/shared/records/reads";
import { Button, Check, Notice } from "@/shared/ui";
import { Corners } from "./Corners";
import type { Corner } from "./corners";
import { shapeOf } from "./targets";

interface Props {
  siteId: string;
  /** the target that is changed; none: a new one */
  target: Target | undefined;
  corners: Corner[];
  onCorners: (corners: Corner[]) => void;
  onDone: () => void;
  vocabulary: Vocabulary;
}

/** What a tree may fall on: drawn as a point, a line or an area, with how often somebody is there. */
export function TargetSheet({ siteId, target, corners, onCorners, onDone, vocabulary }: Props) {
  const client = useQueryClient();
  const fields = (vocabulary.records.office["target"] ?? []).filter((f) => f.id !== "shape");
  const [draft, setDraft] = useState<Body>(
    target ? Object.fromEntries(fields.map((f) => [f.id, target[f.id as keyof Target]])) : {},
  );
  const [closed, setClosed] = useState(false);
  const [wrong, setWrong] = useState("");
  const path = { params: { path: { target_id: target?.id ?? "" } } };
  const done = async (act: () => Promise<unknown>) => {
    try {
      await act();
      await client.invalidateQueries({ queryKey: ["targets"] });
      onDone();
    } catch (error) {
      setWrong(error instanceof Error ? error.message : "The target was not saved.");
    }
  };
  const save = () =>
    done(async () => {
      const shape = shapeOf(corners, closed);
      if (!shape && !target) throw new Error("A target needs a place: tap it on the map.");
      const body = { ...draft, ...(shape ? { shape } : {}) } as Schemas["TargetIn"];
      if (target) unwrap(await api.PATCH("/api/targets/{target_id}/", { ...path, body }));
      else
        unwrap(
          await api.POST("/api/sites/{site_id}/targets/", { params: { path: { site_id: siteId } }, body }),
        );
    });
  return (
    <div className="grid gap-3">
      <h1 className="text-2xl">{target ? `Change ${target.name}` : "New target"}</h1>
      <p className="text-sm text-soft">
        One tap makes a point, two and more a line along a road or path. Trees are inspected by the busiest
        target within their reach.
      </p>
      <Corners least={1} needed={!target} corners={corners} onCorners={onCorners} />
      {corners.length > 2 && <Check label="an area, not a line" checked={closed} onChange={setClosed} />}
      <RecordForm fields={fields} value={draft} onChange={setDraft} vocabulary={vocabulary} />
      {wrong && <Notice kind="refused">{wrong}</Notice>}
      <Button weight="act" onClick={() => void save()}>
        Save target
      </Button>
      {target && (
        <Button
          weight="warn"
          onClick={() => void done(async () => unwrap(await api.DELETE("/api/targets/{target_id}/", path)))}
        >
          Take the target off
        </Button>
      )}
      <Button onClick={onDone}>Cancel</Button>
    </div>
  );
}
