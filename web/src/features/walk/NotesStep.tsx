import { useEffect, useId, useMemo, useState } from "react";
import { newId } from "@/shared/ids";
import type { DraftPhoto } from "@/shared/records/draft";
import { takePhoto } from "@/shared/records/photo";
import { Field, Notice } from "@/shared/ui";
import type { StepProps } from "./WalkPage";

/** A note and photographs. A picture stays on the device until the server has it. */
export function NotesStep({ draft, change }: StepProps) {
  const id = useId();
  const [wrong, setWrong] = useState("");
  const add = async (files: FileList | null) => {
    setWrong("");
    for (const file of files ?? []) {
      try {
        const taken = await takePhoto(file);
        await change((now) => ({ photos: [...now.photos, { id: newId(), organ: "whole plant", ...taken }] }));
      } catch (error) {
        setWrong(error instanceof Error ? error.message : "The picture was not kept.");
      }
    }
  };
  return (
    <div className="grid gap-4">
      <div>
        <label htmlFor={id} className="mb-1 block text-sm text-soft">
          Note
        </label>
        <textarea
          id={id}
          rows={4}
          maxLength={4000}
          defaultValue={draft.note}
          onChange={(e) => void change({ note: e.target.value })}
          className="w-full rounded-tile border-2 border-rule bg-sheet p-3"
        />
      </div>
      <Field label="Photograph" type="file" accept="image/*" capture="environment" onChange={(e) => void add(e.target.files)} />
      {wrong && <Notice kind="refused">{wrong}</Notice>}
      <ul className="flex flex-wrap gap-3">
        {draft.photos.map((p) => (
          <Taken key={p.id} photo={p} onRemove={() => void change((now) => ({ photos: now.photos.filter((o) => o.id !== p.id) }))} />
        ))}
      </ul>
    </div>
  );
}

function Taken({ photo, onRemove }: { photo: DraftPhoto; onRemove: () => void }) {
  const url = useMemo(() => URL.createObjectURL(photo.blob), [photo.blob]);
  useEffect(() => () => URL.revokeObjectURL(url), [url]);
  return (
    <li>
      <img src={url} alt="" className="h-32 border border-rule" />
      <button type="button" className="target text-sm text-rust underline" onClick={onRemove}>
        Remove photograph
      </button>
    </li>
  );
}
