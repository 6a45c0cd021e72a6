import { useEffect, useMemo } from "react";
import { type Photograph, photographsOf } from "@/shared/records/draft";
import { type BodyOf, type EntryOf, entriesOf, withEntry, withoutEntry } from "@/shared/records/entries";
import { useVocabulary } from "@/shared/records/reads";
import { Button, Notice, Select } from "@/shared/ui";
import { FileButton } from "./FileButton";
import type { StepProps } from "./stepProps";
import { useAddPhotographs } from "./useAddPhotographs";

const WHOLE = "whole plant";
const WHOLE_PLANT = { organ: WHOLE };

/** Photographs of a visit: taken with the device's camera or chosen from its files, each said what it shows, taken anew, or removed. */
export function Pictures({ draft, change }: Pick<StepProps, "draft" | "change">) {
  const { add, reading, wrong } = useAddPhotographs(change);
  const photographs = photographsOf(draft);
  const defectIds = new Set(entriesOf(draft, "defect").map((d) => d.id));
  const shows = (entry: EntryOf<"photo">, part: ShownPart) => {
    const { organ: _organ, defect: _defect, shows: _shows, ...body } = entry.body;
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
        <FileButton label="Take a photograph" camera onFiles={(files) => void add(files, WHOLE_PLANT)} />
        <FileButton label="Choose pictures" onFiles={(files) => void add(files, WHOLE_PLANT)} />
      </div>
      {reading && <p role="status">Reading the picture …</p>}
      {wrong && <Notice kind="refused">{wrong}</Notice>}
      <ul className="grid gap-4 sm:grid-cols-2">
        {photographs.map((photograph, i) => (
          <Taken
            ofPoint={Boolean(photograph.entry.body.shows && !defectIds.has(photograph.entry.body.shows))}
            key={photograph.entry.id}
            photograph={photograph}
            number={i + 1}
            defects={entriesOf(draft, "defect")}
            onShows={(part) => shows(photograph.entry, part)}
            onAgain={(files) => void add(files, photograph.entry.body, photograph.entry.id)}
            onRemove={() => remove(photograph.entry.id)}
          />
        ))}
      </ul>
    </section>
  );
}

type ShownPart = Pick<BodyOf<"photo">, "organ" | "defect" | "shows">;

interface TakenProps {
  photograph: Photograph;
  number: number;
  /** it was taken from a photo point: what it shows is settled */
  ofPoint: boolean;
  /** defects of this visit: each can be shown */
  defects: EntryOf<"defect">[];
  onShows: (part: ShownPart) => void;
  onAgain: (files: FileList | null) => void;
  onRemove: () => void;
}

function Taken({ photograph, number, ofPoint, defects, onShows, onAgain, onRemove }: TakenProps) {
  const url = useMemo(() => URL.createObjectURL(photograph.blob), [photograph.blob]);
  useEffect(() => () => URL.revokeObjectURL(url), [url]);
  const vocabulary = useVocabulary().data;
  const label = (id: string) => vocabulary?.defects.find((d) => d.id === id)?.label ?? id;
  const photo = photograph.entry.body;
  const shows = photo.shows ?? photo.organ ?? WHOLE;
  return (
    <li className="grid gap-2 border border-rule bg-sheet p-2">
      <img
        src={url}
        alt={`Photograph ${number}: ${photo.defect ? label(photo.defect) : (photo.organ ?? WHOLE)}`}
        className="h-40 w-full object-contain"
      />
      {ofPoint ? (
        <p>From a photo point.</p>
      ) : (
        <Select
          label="It shows"
          value={shows}
          onChange={(e) => {
            const shown = defects.find((d) => d.id === e.target.value);
            onShows(shown ? { defect: shown.body.defect, shows: shown.id } : { organ: e.target.value });
          }}
        >
          <option value={WHOLE}>{WHOLE}</option>
          {defects.map((d) => (
            <option key={d.id} value={d.id}>
              defect: {label(d.body.defect)}, {d.body.part}
            </option>
          ))}
          {vocabulary?.organs.map((o) => (
            <option key={o.id} value={o.id}>
              {o.label.toLowerCase()}
            </option>
          ))}
        </Select>
      )}
      <div className="flex flex-wrap gap-2">
        <FileButton label="Take it again" camera onFiles={onAgain} />
        <Button weight="warn" onClick={onRemove}>
          Remove photograph
        </Button>
      </div>
    </li>
  );
}
