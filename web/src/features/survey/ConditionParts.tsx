import { withOne } from "@/shared/records/draft";
import { type BodyOf, entriesOf, entryOf } from "@/shared/records/entries";
import { gradeInWords, qualified } from "@/shared/records/labels";
import type { Vocabulary } from "@/shared/records/reads";
import { Check } from "@/shared/ui";
import { type JudgeRow, JudgeRows } from "./JudgeRows";
import { SaidField } from "./SaidField";
import type { StepProps } from "./stepProps";
import { useVisitCheck } from "./useVisitCheck";
import { withCondition } from "./withCondition";

type Condition = BodyOf<"condition">;
type Grade = NonNullable<Condition["parts"]>[string];

interface Props extends Pick<StepProps, "draft" | "change" | "row" | "site"> {
  vocabulary: Vocabulary;
  /** a defect is to be added */
  onDefect: () => void;
}

const NOT_SEEN = "not_seen";
const OUT_OF_LEAF = "out_of_leaf";
const GRADES = [4, 3, 2, 1, 0]; // best first

/** A tap for each part, for what was seen of base and crown, and for defects; the core says what follows. */
export function ConditionParts({ draft, change, row, vocabulary, site, onDefect }: Props) {
  const entry = entryOf(draft, "condition");
  const body: Condition = entry?.body ?? {};
  const { parts = {}, buds_seen = false } = body;
  const check = useVisitCheck(draft, site, row);
  const score = check.of(entry)?.condition;
  const known = check.leafState === OUT_OF_LEAF; // by its kind, the day and the place: not asked
  const leafless = body.leafless || (known && !body.leaf_reason?.trim());
  const scale = site?.condition_scale ?? "words";
  const judge = (part: Partial<Condition>) => void change((now) => withCondition(now, part));
  const grade = (part: string, value: string) =>
    void change((now) => {
      const { word: _word, ...before } = entryOf(now, "condition")?.body ?? {};
      const graded: Grade = value === NOT_SEEN ? NOT_SEEN : Number(value);
      return withOne(now, "condition", { ...before, parts: { ...before.parts, [part]: graded } });
    });
  const described = vocabulary.records.kinds.find((k) => k.id === "condition")?.fields;
  const meaning = (field: string) => described?.find((f) => f.id === field)?.meaning;
  const asked = vocabulary.condition_parts.filter((p) => !(leafless && p.leafless));
  const defects = entriesOf(draft, "defect").length;
  const rows: JudgeRow[] = [
    ...asked.map((p): JudgeRow => {
      const given = parts[p.id];
      return {
        id: p.id,
        label: p.label,
        earned: typeof given === "number" ? p.grades[given] : given ? `not seen: ${p.unseen}` : undefined,
        options: [
          ...GRADES.map((g) => ({ id: String(g), label: gradeInWords(g, scale) })),
          { id: NOT_SEEN, label: "not seen" },
        ],
        value: given === undefined ? "" : String(given),
        set: (value) => grade(p.id, value),
      };
    }),
    {
      id: "base_visible",
      label: "Base seen",
      meaning: meaning("base_visible"),
      options: vocabulary.judged["base_visible"] ?? [],
      value: body.base_visible ?? "",
      set: (value) => judge({ base_visible: value as NonNullable<Condition["base_visible"]> }),
    },
    {
      id: "crown_visible",
      label: "Crown seen",
      meaning: meaning("crown_visible"),
      options: vocabulary.judged["crown_visible"] ?? [],
      value: body.crown_visible ?? "",
      set: (value) => judge({ crown_visible: value as NonNullable<Condition["crown_visible"]> }),
    },
    {
      id: "defects",
      label: "Defects",
      meaning: meaning("no_defect"),
      options: [
        { id: "none", label: "none found" },
        { id: "some", label: "found" },
      ],
      value: defects ? "some" : body.no_defect ? "none" : "",
      set: (value) => {
        judge({ no_defect: value === "none" && defects === 0 });
        if (value === "some") onDefect();
      },
    },
  ];
  const held = vocabulary.condition_parts.find((p) => p.id === score?.held_by)?.label;
  const unseen = vocabulary.condition_parts.filter((p) => leafless && p.leafless);
  return (
    <div className="grid gap-3">
      {known ? (
        <SaidField
          label="Its kind stands without leaves on this day, here. If this tree has leaves all the same: why"
          value={body.leaf_reason ?? ""}
          onSay={(why) => judge({ leaf_reason: why })}
        />
      ) : (
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
      )}
      {leafless && (
        <Check
          label="live buds and cambium looked for"
          checked={buds_seen}
          onChange={(looked) => judge({ buds_seen: looked })}
        />
      )}
      <JudgeRows rows={rows} />
      {unseen.map((p) => (
        <p key={p.id} className="text-soft">
          {p.label}: not seen, out of leaf.
        </p>
      ))}
      {Object.keys(parts).length > 0 && (
        <p aria-live="polite">
          {score ? (
            <>
              <strong className="figure text-3xl">
                {qualified(score.whole.replaceAll("_", " "), score.at_most, score.winter_view)}
              </strong>{" "}
              <span className="text-soft">
                health {shown(score.health, scale)}, structure {shown(score.structure, scale)}
                {held && `; ${held} decides`}
                {score.at_most && "; what was not seen could only make it worse"}
                {score.whole === NOT_SEEN && "; it takes twigs or foliage, and base or trunk, to give a word"}
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
