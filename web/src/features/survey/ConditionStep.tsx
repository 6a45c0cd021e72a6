import { useRef, useState } from "react";
import { withOne } from "@/shared/records/draft";
import { type BodyOf, entryOf } from "@/shared/records/entries";
import { useVocabulary, type Vocabulary } from "@/shared/records/reads";
import { useShortcuts } from "@/shared/shortcuts";
import { Choice, Notice } from "@/shared/ui";
import { ConditionParts } from "./ConditionParts";
import { Defects } from "./Defects";
import { InspectionRow } from "./InspectionRow";
import { RiskSheet } from "./RiskSheet";
import type { StepProps } from "./stepProps";
import { VeteranScales } from "./VeteranScales";
import { withCondition } from "./withCondition";

type Condition = BodyOf<"condition">;
type Word = NonNullable<Condition["word"]>;
type Life = BodyOf<"life">["state"];
type How = "parts" | "word";

const JUDGED = [
  { key: "flare", label: "Root flare" },
  { key: "crown_class", label: "Crown among its neighbours" },
  { key: "crown_light", label: "Light on the crown" },
] as const;
const HOW_KEY = "jubark condition by"; // whoever judges by one word does so all day

/** Condition: part by part, or one word; defects; and, where it is asked for, the risk worksheet. */
export function ConditionStep({ draft, change, row, site, focusNext }: StepProps) {
  const vocabulary = useVocabulary().data;
  const defects = useRef<HTMLSelectElement>(null);
  const body: Condition = entryOf(draft, "condition")?.body ?? {};
  const [how, setHow] = useState<How>(
    body.word ? "word" : ((sessionStorage.getItem(HOW_KEY) as How | null) ?? "parts"),
  );
  if (!vocabulary) return null;
  const choose = (next: string) => {
    setHow(next as How);
    sessionStorage.setItem(HOW_KEY, next);
  };
  return (
    <div className="grid gap-4">
      <Choice
        label="Judged"
        hideLabel
        tight
        value={how}
        onChange={choose}
        options={[
          { id: "parts", label: "part by part" },
          { id: "word", label: "in one word" },
        ]}
      />
      {how === "parts" ? (
        <ConditionParts
          draft={draft}
          change={change}
          row={row}
          vocabulary={vocabulary}
          site={site}
          onDefect={() => defects.current?.focus()}
        />
      ) : (
        <OneWord draft={draft} change={change} vocabulary={vocabulary} onWord={focusNext} />
      )}
      {draft.stage === "veteran" && (
        <VeteranScales draft={draft} change={change} vocabulary={vocabulary} site={site} />
      )}
      <Defects draft={draft} change={change} site={site} vocabulary={vocabulary} select={defects} />
      {site?.sections.includes("inspection") && (
        <InspectionRow
          draft={draft}
          change={change}
          vocabulary={vocabulary}
          asksWhatWasSeen={how === "word"}
        />
      )}
      <MoreJudged draft={draft} change={change} vocabulary={vocabulary} />
      <RiskSheet draft={draft} change={change} vocabulary={vocabulary} site={site} />
      <p className="text-sm text-soft">A limited visual assessment. A qualified assessor decides on risk.</p>
    </div>
  );
}

type Within = Pick<StepProps, "draft" | "change"> & { vocabulary: Vocabulary };

/** The whole tree in one word, with what earns it. */
function OneWord({ draft, change, vocabulary, onWord }: Within & { onWord: () => void }) {
  const { word = "", buds_seen = false } = entryOf(draft, "condition")?.body ?? {};
  const choose = (chosen: string) => {
    void change((now) => withCondition(now, { word: chosen as Word, parts: {} }));
    onWord();
  };
  useShortcuts(
    vocabulary.conditions.map((c, i) => ({ key: String(i + 1), label: c.label, run: () => choose(c.id) })),
  );
  return (
    <>
      <Choice
        label="The whole tree, in one word"
        wide
        value={word}
        onChange={choose}
        options={vocabulary.conditions.map((c) => ({
          id: c.id,
          label: c.label,
          ...(c.help ? { hint: c.help } : {}),
        }))}
      />
      {word === "dead" && !buds_seen && (
        <Notice kind="caution" title="Leafless is not dead.">
          Scratch no bark; look at twigs and buds, or come back in leaf. Larch, bald-cypress and late leafers
          mislead.
        </Notice>
      )}
    </>
  );
}

/** What is judged now and then: flare, crown class, light, and whether the tree lives. */
function MoreJudged({ draft, change, vocabulary }: Within) {
  const body: Condition = entryOf(draft, "condition")?.body ?? {};
  const life = entryOf(draft, "life")?.body.state;
  const described = vocabulary.records.kinds.find((k) => k.id === "condition")?.fields;
  return (
    <details>
      <summary className="min-h-[53px] cursor-pointer content-center text-slate underline">
        Flare, crown class, light, life
        {JUDGED.some(({ key }) => body[key]) || life ? " (recorded)" : ""}
      </summary>
      <div className="grid gap-3">
        {JUDGED.map(({ key, label }) => (
          <Choice
            key={key}
            label={label}
            meaning={described?.find((f) => f.id === key)?.meaning}
            value={body[key] ?? ""}
            onChange={(value) => void change((now) => withCondition(now, { [key]: value }))}
            options={vocabulary.judged[key] ?? []}
          />
        ))}
        <Choice
          label="The tree is"
          value={life ?? ""}
          onChange={(state) => void change((now) => withOne(now, "life", { state: state as Life }))}
          options={vocabulary.judged["life"] ?? []}
        />
      </div>
    </details>
  );
}
