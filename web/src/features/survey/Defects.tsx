import type { Ref } from "react";
import { newId } from "@/shared/ids";
import { type BodyOf, entriesOf, entryOf, withEntry, withoutEntry } from "@/shared/records/entries";
import type { Vocabulary } from "@/shared/records/reads";
import { Button, Field, Select } from "@/shared/ui";
import type { StepProps } from "./stepProps";
import { withCondition } from "./withCondition";

type Defect = BodyOf<"defect">;
interface Props extends Pick<StepProps, "draft" | "change"> {
  vocabulary: Vocabulary;
  select: Ref<HTMLSelectElement>;
}

/** Defects: which, where, how far. */
export function Defects({ draft, change, vocabulary, select }: Props) {
  const found = entriesOf(draft, "defect");
  const set = (id: string, part: Partial<Defect>) =>
    void change((now) => {
      const before = entriesOf(now, "defect").find((e) => e.id === id);
      return before
        ? { entries: withEntry(now.entries, { ...before, body: { ...before.body, ...part } }) }
        : {};
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
      {found.map(({ id, body: d }) => {
        const told = vocabulary.defects.find((v) => v.id === d.defect);
        const bad = d.extent_percent != null && (d.extent_percent < 0 || d.extent_percent > 100);
        return (
          <fieldset key={id} className="grid grid-cols-[1fr_1fr_auto] items-end gap-2 border border-rule p-2">
            <legend className="px-1 font-bold">{told?.label}</legend>
            <Select
              label="On the"
              value={d.part}
              onChange={(e) => set(id, { part: e.target.value as Defect["part"] })}
            >
              {told?.parts.map((p) => (
                <option key={p}>{p}</option>
              ))}
            </Select>
            <Field
              label={told?.extent ?? "extent"}
              inputMode="numeric"
              value={d.extent_percent ?? ""}
              error={bad ? "from 0 to 100" : undefined}
              onChange={(e) => {
                const value = Number.parseInt(e.target.value, 10);
                set(id, { extent_percent: Number.isNaN(value) ? null : Math.max(0, Math.min(100, value)) });
              }}
            />
            <Button
              weight="warn"
              aria-label={`Remove ${told?.label}`}
              onClick={() => void change((now) => ({ entries: withoutEntry(now.entries, id) }))}
            >
              ×
            </Button>
          </fieldset>
        );
      })}
      {found.length > 0 && (
        <p className="text-sm text-soft">
          Photograph each one; the picture is added under Note and photograph.
        </p>
      )}
    </div>
  );
}
