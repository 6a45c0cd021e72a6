import { useState } from "react";
import { newId } from "@/shared/ids";
import { type BodyOf, type EntryOf, withoutEntry } from "@/shared/records/entries";
import { takePhoto } from "@/shared/records/photo";
import type { StepProps } from "./stepProps";

/** Adds photographs to a visit, said what they show; `instead` is the one they take the place of. */
export function useAddPhotographs(change: StepProps["change"]) {
  const [wrong, setWrong] = useState("");
  const [reading, setReading] = useState(false);
  const add = async (files: FileList | File[] | null, shows: Partial<BodyOf<"photo">>, instead?: string) => {
    setWrong("");
    setReading(true);
    for (const file of files ?? []) {
      try {
        const { blob, sha256 } = await takePhoto(file);
        const entry: EntryOf<"photo"> = {
          id: newId(),
          kind: "photo",
          body: { ...shows, sha256, bytes: blob.size },
        };
        await change((now) => ({
          entries: [...withoutEntry(now.entries, instead), entry],
          pictures: [...now.pictures.filter((p) => p.id !== instead), { id: entry.id, blob }],
        }));
      } catch (error) {
        setWrong(error instanceof Error ? error.message : "The picture was not saved.");
      }
    }
    setReading(false);
  };
  return { add, reading, wrong };
}
