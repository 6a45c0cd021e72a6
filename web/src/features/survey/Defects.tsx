import type { Ref } from "react";
import { newId } from "@/shared/ids";
import {
  type BodyOf,
  type EntryOf,
  entriesOf,
  entryOf,
  withEdited,
  withEntry,
} from "@/shared/records/entries";
import type { Vocabulary } from "@/shared/records/reads";
import { Notice, Select } from "@/shared/ui";
import { DefectSheet } from "./DefectSheet";
import type { StepProps } from "./stepProps";
import { useAddPhotographs } from "./useAddPhotographs";
import { useVisitCheck } from "./useVisitCheck";
import { withCondition } from "./withCondition";

type Defect = BodyOf<"defect">;
interface Props extends Pick<StepProps, "draft" | "change" | "site"> {
  vocabulary: Vocabulary;
  select: Ref<HTMLSelectElement>;
}

/** Defects: which, and a sheet for each with the fields that fit it and its own photographs. */
export function Defects({ draft, change, site, vocabulary, select }: Props) {
  const check = useVisitCheck(draft, site);
  const found = entriesOf(draft, "defect");
  const { add: photograph, reading, wrong } = useAddPhotographs(change);
  const put = (id: string, body: Defect) =>
    void change((now) => {
      const before = entriesOf(now, "defect").find((e) => e.id === id);
      return before ? { entries: withEdited(now.entries, draft.entries, { ...before, body }) } : {};
    });
  const add = (defect: string) => {
    const part = vocabulary.defects.find((d) => d.id === defect)?.parts[0] as Defect["part"] | undefined;
    if (!part) return;
    void change((now) => {
      const looked = entryOf(now, "condition") ? withCondition(now, { no_defect: false }) : {};
      const entries = looked.entries ?? now.entries;
      return { entries: withEntry(entries, { id: newId(), kind: "defect", body: { defect, part } }) };
    });
  };
  // with a defect go its photographs: they would show what is not recorded
  const remove = (id: string) =>
    void change((now) => {
      const gone = new Set([id, ...photographsOf(now.entries, id).map((p) => p.id)]);
      return {
        entries: now.entries.filter((e) => !gone.has(e.id)),
        pictures: now.pictures.filter((p) => !gone.has(p.id)),
      };
    });
  return (
    <div className="grid gap-3">
      <Select ref={select} label="Add a defect" value="" onChange={(e) => add(e.target.value)}>
        <option value="">{found.length ? "another" : "none recorded"}</option>
        {vocabulary.defects.map((d) => (
          <option key={d.id} value={d.id}>
            {d.label}
          </option>
        ))}
      </Select>
      {found.map(({ id, body }) => {
        const told = vocabulary.defects.find((v) => v.id === body.defect);
        return (
          told && (
            <DefectSheet
              key={id}
              told={told}
              body={body}
              photographs={photographsOf(draft.entries, id).length}
              vocabulary={vocabulary}
              asks={check.of({ id })?.asks ?? []}
              onPut={(next) => put(id, next)}
              onPhotograph={(files) => void photograph(files, { defect: body.defect, shows: id })}
              onRemove={() => remove(id)}
            />
          )
        );
      })}
      {reading && <p role="status">Reading the picture …</p>}
      {wrong && <Notice kind="refused">{wrong}</Notice>}
    </div>
  );
}

const photographsOf = (entries: StepProps["draft"]["entries"], defect: string) =>
  entries.filter((e): e is EntryOf<"photo"> => e.kind === "photo" && e.body.shows === defect);
