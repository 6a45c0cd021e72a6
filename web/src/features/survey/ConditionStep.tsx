import { useQuery } from "@tanstack/react-query";
import { api, unwrap } from "@/api/client";
import { newId } from "@/shared/ids";
import { type Draft, withOne } from "@/shared/records/draft";
import { type BodyOf, entriesOf, entryOf, withEntry, withoutEntry } from "@/shared/records/entries";
import { gradeInWords } from "@/shared/records/labels";
import { useVocabulary, type Vocabulary } from "@/shared/records/reads";
import { useShortcuts } from "@/shared/shortcuts";
import { Button, Check, Choice, Field, Notice, Select } from "@/shared/ui";
import { RiskSheet } from "./RiskSheet";
import type { StepProps } from "./SurveyPage";

type Condition = BodyOf<"condition">;
type Word = NonNullable<Condition["word"]>;
type Life = BodyOf<"life">["state"];
type Defect = BodyOf<"defect">;

/** The condition with some of it judged anew. */
const withCondition = (now: Draft, part: Partial<Condition>) =>
  withOne(now, "condition", { ...entryOf(now, "condition")?.body, ...part });

const JUDGED = [
  { key: "base_visible", label: "Base of the tree" },
  { key: "flare", label: "Root flare" },
  { key: "crown_class", label: "Crown among its neighbours" },
  { key: "crown_light", label: "Light on the crown" },
] as const;

/** Condition: one word, or part by part with health and structure apart; defects; and, where it is asked for, the risk worksheet. */
export function ConditionStep({ draft, change, site, focusNext }: StepProps) {
  const vocabulary = useVocabulary().data;
  const month = Number(draft.local_date.slice(5, 7));
  const body: Condition = entryOf(draft, "condition")?.body ?? {};
  const life = entryOf(draft, "life")?.body.state;
  const graded = Object.keys(body.parts ?? {}).length > 0;
  const judge = (part: Partial<Condition>) => void change((now) => withCondition(now, part));
  const conditions = vocabulary?.conditions ?? [];
  const word = (chosen: string) => {
    judge({ word: chosen as Word, parts: {} });
    focusNext();
  };
  useShortcuts(conditions.map((c, i) => ({ key: String(i + 1), label: c.label, run: () => word(c.id) })));
  if (!vocabulary) return null;
  const described = vocabulary.records.kinds.find((k) => k.id === "condition")?.fields;
  return (
    <div className="grid gap-5">
      <Choice
        label={graded ? "One word instead of the parts below" : "The whole tree, in one word"}
        wide
        value={graded ? "" : (body.word ?? "")}
        onChange={word}
        options={conditions.map((c) => ({ id: c.id, label: c.label, hint: graded ? undefined : c.help }))}
      />
      {body.word === "dead" && (month >= 11 || month <= 4) && (
        <Notice kind="caution" title="Leafless is not dead.">
          Scratch no bark; look at twigs and buds, or come back in leaf. Larch, bald-cypress and late leafers
          mislead.
        </Notice>
      )}
      <details open={graded}>
        <summary className="min-h-[53px] cursor-pointer content-center text-slate underline">
          Part by part
        </summary>
        <Parts
          draft={draft}
          change={change}
          vocabulary={vocabulary}
          scale={site?.condition_scale ?? "words"}
        />
      </details>
      <details>
        <summary className="min-h-[53px] cursor-pointer content-center text-slate underline">
          Base, flare, crown class, light, life
          {JUDGED.some(({ key }) => body[key]) || life ? " (recorded)" : ""}
        </summary>
        <div className="grid gap-3">
          {JUDGED.map(({ key, label }) => (
            <Choice
              key={key}
              label={label}
              meaning={described?.find((f) => f.id === key)?.meaning}
              value={body[key] ?? ""}
              onChange={(value) => judge({ [key]: value })}
              options={vocabulary.judged[key] ?? []}
            />
          ))}
          <Choice
            label="The tree is"
            value={life ?? ""}
            onChange={(state) => void change((now) => withOne(now, "life", { state: state as Life }))}
            options={vocabulary.judged.life ?? []}
          />
        </div>
      </details>
      <Defects draft={draft} change={change} vocabulary={vocabulary} />
      <RiskSheet draft={draft} change={change} vocabulary={vocabulary} />
      <p className="text-sm text-soft">A limited visual assessment. A qualified assessor decides on risk.</p>
    </div>
  );
}

interface Within {
  draft: Draft;
  change: StepProps["change"];
  vocabulary: Vocabulary;
}

/** Five graded words for each part, with what earns them; the core says what follows. */
function Parts({ draft, change, vocabulary, scale }: Within & { scale: string }) {
  const { parts = {}, leafless = false } = entryOf(draft, "condition")?.body ?? {};
  const score = useQuery({
    queryKey: ["condition", parts, leafless],
    enabled: Object.keys(parts).length > 0,
    placeholderData: (before) => before,
    retry: false,
    queryFn: async () => unwrap(await api.POST("/api/condition/score/", { body: { parts, leafless } })),
  });
  const grade = (part: string, value: number | "not_seen" | undefined) =>
    void change((now) => {
      const { word: _word, ...body } = entryOf(now, "condition")?.body ?? {};
      const { [part]: _gone, ...others } = body.parts ?? {};
      return withOne(now, "condition", {
        ...body,
        parts: value === undefined ? others : { ...others, [part]: value },
      });
    });
  const held = vocabulary.condition_parts.find((p) => p.id === score.data?.held_by)?.label;
  return (
    <div className="grid gap-4">
      <Check
        label="out of leaf today"
        checked={leafless}
        onChange={(bare) =>
          void change((now) => {
            const graded = entryOf(now, "condition")?.body.parts ?? {};
            const { foliage: _gone, ...others } = graded;
            return withCondition(now, { leafless: bare, parts: bare ? others : graded });
          })
        }
      />
      {vocabulary.condition_parts.map((p) =>
        leafless && p.leafless ? (
          <p key={p.id} className="text-soft">
            {p.label}: not seen, out of leaf.
          </p>
        ) : (
          <Select
            key={p.id}
            label={p.label}
            hint={typeof parts[p.id] === "number" ? p.grades[parts[p.id] as number] : undefined}
            value={String(parts[p.id] ?? "")}
            onChange={(e) =>
              grade(
                p.id,
                e.target.value === ""
                  ? undefined
                  : e.target.value === "not_seen"
                    ? "not_seen"
                    : Number(e.target.value),
              )
            }
          >
            <option value="">not graded</option>
            {p.grades.map((_, i) => {
              const g = p.grades.length - 1 - i; // best first
              return (
                <option key={g} value={g}>
                  {gradeInWords(g, scale)}: {p.grades[g]}
                </option>
              );
            })}
            <option value="not_seen">not seen</option>
          </Select>
        ),
      )}
      {Object.keys(parts).length > 0 && (
        <p aria-live="polite">
          {score.data ? (
            <>
              <strong className="figure text-3xl">{score.data.whole.replaceAll("_", " ")}</strong>{" "}
              <span className="text-soft">
                health {shown(score.data.health, scale)}, structure {shown(score.data.structure, scale)}
                {held && `; held down by ${held}`}
              </span>
            </>
          ) : (
            <span className="text-soft">The overall condition is computed from the parts when online.</span>
          )}
        </p>
      )}
    </div>
  );
}

const shown = (grade: number | null, scale: string) =>
  grade === null ? "not seen" : gradeInWords(grade, scale);

/** Defects: which, where, how far. */
function Defects({ draft, change, vocabulary }: Within) {
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
    void change((now) => ({
      entries: withEntry(now.entries, { id: newId(), kind: "defect", body: { defect, part } }),
    }));
  };
  return (
    <div className="grid gap-3">
      <Select label="Add a defect" value="" onChange={(e) => add(e.target.value)}>
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
