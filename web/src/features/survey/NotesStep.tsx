import { useId } from "react";
import { withOne } from "@/shared/records/draft";
import { entryOf } from "@/shared/records/entries";
import { JobsHere } from "./JobsHere";
import { PhotoPoints } from "./PhotoPoints";
import { Pictures } from "./Pictures";
import type { StepProps } from "./stepProps";

/** A note and photographs. A picture stays on the device until the server has it. */
export function NotesStep({ draft, change }: StepProps) {
  const id = useId();
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
          defaultValue={entryOf(draft, "note")?.body.text ?? ""}
          onChange={(e) => {
            const text = e.target.value;
            void change((now) => withOne(now, "note", text ? { text } : null));
          }}
          className="w-full rounded-tile border-2 border-rule bg-sheet p-3"
        />
      </div>
      <JobsHere draft={draft} change={change} />
      <PhotoPoints draft={draft} change={change} />
      <Pictures draft={draft} change={change} />
    </div>
  );
}
