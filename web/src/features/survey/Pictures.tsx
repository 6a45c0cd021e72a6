import { useEffect, useId, useMemo, useRef, useState } from "react";
import { newId } from "@/shared/ids";
import { type Photograph, photographsOf } from "@/shared/records/draft";
import { type BodyOf, type EntryOf, entriesOf, withEntry, withoutEntry } from "@/shared/records/entries";
import { takePhoto } from "@/shared/records/photo";
import { useVocabulary } from "@/shared/records/reads";
import { Button, Notice, Select } from "@/shared/ui";
import type { StepProps } from "./stepProps";

const WHOLE = "whole plant";

/** Photographs of a visit: taken with the device's camera or chosen from its files, each said what it shows, taken anew, or removed. */
export function Pictures({ draft, change }: Pick<StepProps, "draft" | "change">) {
  const [wrong, setWrong] = useState("");
  const [reading, setReading] = useState(false);
  const photographs = photographsOf(draft);
  const add = async (files: FileList | null, instead?: EntryOf<"photo">) => {
    setWrong("");
    setReading(true);
    for (const file of files ?? []) {
      try {
        const { blob, sha256 } = await takePhoto(file);
        const shows = instead ? instead.body : { organ: WHOLE };
        const entry: EntryOf<"photo"> = {
          id: newId(),
          kind: "photo",
          body: { ...shows, sha256, bytes: blob.size },
        };
        await change((now) => ({
          entries: [...withoutEntry(now.entries, instead?.id), entry],
          pictures: [...now.pictures.filter((p) => p.id !== instead?.id), { id: entry.id, blob }],
        }));
      } catch (error) {
        setWrong(error instanceof Error ? error.message : "The picture was not saved.");
      }
    }
    setReading(false);
  };
  const shows = (entry: EntryOf<"photo">, part: Pick<BodyOf<"photo">, "organ" | "defect">) => {
    const { organ: _organ, defect: _defect, ...body } = entry.body;
    void change((now) => ({ entries: withEntry(now.entries, { ...entry, body: { ...body, ...part } }) }));
  };
  const remove = (id: string) =>
    void change((now) => ({
      entries: withoutEntry(now.entries, id),
      pictures: now.pictures.filter((p) => p.id !== id),
    }));
  return (
    <section aria-label="Photographs" className="grid gap-3">
      <div className="flex flex-wrap gap-2">
        <FileButton label="Take a photograph" camera onFiles={(files) => void add(files)} />
        <FileButton label="Choose pictures" onFiles={(files) => void add(files)} />
      </div>
      {reading && <p role="status">Reading the picture …</p>}
      {wrong && <Notice kind="refused">{wrong}</Notice>}
      <ul className="grid gap-4 sm:grid-cols-2">
        {photographs.map((photograph, i) => (
          <Taken
            key={photograph.entry.id}
            photograph={photograph}
            number={i + 1}
            defects={entriesOf(draft, "defect").map((d) => d.body.defect)}
            onShows={(part) => shows(photograph.entry, part)}
            onAgain={(files) => void add(files, photograph.entry)}
            onRemove={() => remove(photograph.entry.id)}
          />
        ))}
      </ul>
    </section>
  );
}

/** A button that opens the camera, or the files of the device. */
function FileButton({
  label,
  camera = false,
  onFiles,
}: {
  label: string;
  camera?: boolean;
  onFiles: (files: FileList | null) => void;
}) {
  const id = useId();
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        id={id}
        type="file"
        accept="image/*"
        aria-label={label}
        tabIndex={-1}
        className="sr-only"
        multiple={!camera}
        {...(camera ? { capture: "environment" as const } : {})}
        onChange={(e) => {
          onFiles(e.target.files);
          e.target.value = ""; // the same picture can be chosen again
        }}
      />
      <Button onClick={() => input.current?.click()}>{label}</Button>
    </>
  );
}

interface TakenProps {
  photograph: Photograph;
  number: number;
  /** defects of this visit, offered first */
  defects: string[];
  onShows: (part: Pick<BodyOf<"photo">, "organ" | "defect">) => void;
  onAgain: (files: FileList | null) => void;
  onRemove: () => void;
}

function Taken({ photograph, number, defects, onShows, onAgain, onRemove }: TakenProps) {
  const url = useMemo(() => URL.createObjectURL(photograph.blob), [photograph.blob]);
  useEffect(() => () => URL.revokeObjectURL(url), [url]);
  const vocabulary = useVocabulary().data;
  const label = (id: string) => vocabulary?.defects.find((d) => d.id === id)?.label ?? id;
  const photo = photograph.entry.body;
  const shows = photo.defect ? `defect ${photo.defect}` : (photo.organ ?? WHOLE);
  return (
    <li className="grid gap-2 border border-rule bg-sheet p-2">
      <img
        src={url}
        alt={`Photograph ${number}: ${photo.defect ? label(photo.defect) : (photo.organ ?? WHOLE)}`}
        className="h-40 w-full object-contain"
      />
      <Select
        label="It shows"
        value={shows}
        onChange={(e) => {
          const defect = e.target.value.match(/^defect (.*)/)?.[1];
          onShows(defect ? { defect } : { organ: e.target.value });
        }}
      >
        <option value={WHOLE}>{WHOLE}</option>
        {[...new Set(defects)].map((d) => (
          <option key={d} value={`defect ${d}`}>
            defect: {label(d)}
          </option>
        ))}
        {vocabulary?.organs.map((o) => (
          <option key={o.id} value={o.id}>
            {o.label.toLowerCase()}
          </option>
        ))}
        {vocabulary?.defects
          .filter((d) => !defects.includes(d.id))
          .map((d) => (
            <option key={d.id} value={`defect ${d.id}`}>
              defect: {d.label}
            </option>
          ))}
      </Select>
      <div className="flex flex-wrap gap-2">
        <FileButton label="Take it again" camera onFiles={onAgain} />
        <Button weight="warn" onClick={onRemove}>
          Remove photograph
        </Button>
      </div>
    </li>
  );
}
