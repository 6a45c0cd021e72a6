import { useState } from "react";
import { fileOf, standOf } from "@/shared/photo-points/points";
import { entriesOf } from "@/shared/records/entries";
import { type Point, useTreeFile } from "@/shared/tree-file";
import { Button, Notice } from "@/shared/ui";
import { FileButton } from "./FileButton";
import { SameFrame } from "./SameFrame";
import type { StepProps } from "./stepProps";
import { useAddPhotographs } from "./useAddPhotographs";

/** The photo points of the tree: each is photographed again in the frame of its last picture. */
export function PhotoPoints({ draft, change }: Pick<StepProps, "draft" | "change">) {
  const { file } = useTreeFile(draft.plant);
  const { add, reading, wrong } = useAddPhotographs(change);
  const [framing, setFraming] = useState<Point | null>(null);
  const begun = entriesOf(draft, "photo_point").flatMap((e) =>
    e.body.name ? [{ id: e.id, body: { ...e.body }, pictures: [] }] : [],
  );
  const points: Point[] = [...(file?.photo_points ?? []), ...begun];
  if (points.length === 0) return null;
  const taken = new Set(entriesOf(draft, "photo").map((p) => p.body.shows));
  const put = (point: Point, files: FileList | File[] | null) =>
    void add(files, { organ: "whole plant", shows: point.id });
  return (
    <section aria-label="Photo points" className="grid gap-3">
      <h2 className="text-xl">Photo points</h2>
      {reading && <p role="status">Reading the picture …</p>}
      {wrong && <Notice kind="refused">{wrong}</Notice>}
      <ul className="grid gap-3">
        {points.map((point) => {
          const last = point.pictures.at(-1);
          return (
            <li key={point.id} className="grid gap-2 border-t border-rule pt-2">
              <p>
                <strong>{nameOf(point)}</strong>{" "}
                <span className="text-soft">
                  {[standOf(point.body), last && `last picture ${last.on}`].filter(Boolean).join("; ")}
                </span>
                {taken.has(point.id) && (
                  <strong className="ml-2 text-moss">photographed on this visit</strong>
                )}
              </p>
              <div className="flex flex-wrap gap-2">
                <Button onClick={() => setFraming(point)} aria-label={`Camera at ${nameOf(point)}`}>
                  Camera in the same frame
                </Button>
                <FileButton label="Choose a picture" onFiles={(files) => put(point, files)} />
              </div>
            </li>
          );
        })}
      </ul>
      {framing && (
        <SameFrame
          name={nameOf(framing)}
          says={standOf(framing.body)}
          last={framing.pictures.at(-1) && fileOf(framing.pictures.at(-1) as Point["pictures"][number])}
          onTaken={(file) => {
            put(framing, [file]);
            setFraming(null);
          }}
          onClose={() => setFraming(null)}
        />
      )}
    </section>
  );
}

const nameOf = (point: Point) => String(point.body["name"]);
