import { useState } from "react";
import { Link } from "react-router";
import { caseOf, useDiagnosis, useSignsToLookFor } from "@/shared/health";
import { newId } from "@/shared/ids";
import { type BodyOf, entriesOf, withEdited, withoutEntry } from "@/shared/records/entries";
import { usePlan, useVocabulary } from "@/shared/records/reads";
import { Button, Notice, PageState } from "@/shared/ui";
import { DiagnosisPanel } from "./DiagnosisPanel";
import { SeenSign } from "./SeenSign";
import { SignChoices } from "./SignChoices";
import type { StepProps } from "./stepProps";

const FIRST = 6; // tiles in view before all signs are asked for

/** Signs and symptoms: what this tree can have now, the most telling first; seen, or looked for and not there. */
export function SignsStep({ draft, change, row, site }: StepProps) {
  const vocabulary = useVocabulary();
  const plan = usePlan(draft.block);
  const [all, setAll] = useState(false);
  const given = caseOf(draft, row, site, plan.rows);
  const answer = useDiagnosis(given);
  const next = useSignsToLookFor(given);
  if (!vocabulary.data) return <PageState error={vocabulary.error} what="the signs" />;
  const v = vocabulary.data;
  const seen = entriesOf(draft, "sign");
  const put = (body: BodyOf<"sign">) =>
    void change((now) => {
      const before = entriesOf(now, "sign").find((e) => e.body.sign === body.sign);
      return {
        entries: withEdited(now.entries, draft.entries, { id: before?.id ?? newId(), kind: "sign", body }),
      };
    });
  const remove = (id: string) => void change((now) => ({ entries: withoutEntry(now.entries, id) }));
  const telling = (next.data?.signs ?? []).filter((s) => s.sign && !seen.some((e) => e.body.sign === s.sign));
  return (
    <div className="grid gap-4">
      <p className="text-soft">
        What is seen on this tree today, and what was looked for and is not there. A sign is a hint, not a
        diagnosis.
      </p>
      {seen.length > 0 && (
        <ul aria-label="Seen and looked for" className="grid gap-2">
          {seen.map((e) => (
            <SeenSign key={e.id} body={e.body} vocabulary={v} onPut={put} onRemove={() => remove(e.id)} />
          ))}
        </ul>
      )}
      {answer.data && seen.length > 0 && given && (
        <DiagnosisPanel
          answer={answer.data}
          host={given.host[0]?.taxon ?? ""}
          draft={draft}
          change={change}
        />
      )}
      {!given && (
        <Notice>
          The name decides what a sign can mean. Name the tree to see what it can have now; all signs can be
          recorded without.
        </Notice>
      )}
      {given && !all && (
        <section aria-label="Look for">
          <h2 className="text-xl">Look for</h2>
          {telling.length ? (
            <SignChoices signs={telling.slice(0, FIRST).map((s) => s.sign)} vocabulary={v} onPut={put} />
          ) : (
            <p className="text-soft">
              {next.isPending ? "One moment." : "Nothing more that would tell much now."}
            </p>
          )}
          {next.data?.withheld.map((w) => (
            <p key={w.sign} className="mt-2 text-sm text-soft">
              <b>Withheld: {v.signs.find((s) => s.id === w.sign)?.label}.</b> {w.why}
            </p>
          ))}
        </section>
      )}
      {all || !given ? (
        <EverySign vocabulary={v} taken={seen.map((e) => e.body.sign)} onPut={put} />
      ) : (
        <Button onClick={() => setAll(true)}>All signs, by part</Button>
      )}
      <p>
        <Link to="/health" className="target inline-flex items-center text-slate underline">
          Plant health of the site
        </Link>
      </p>
    </div>
  );
}

const PARTS = [
  { id: "bark", label: "Bark and wood" },
  { id: "crown", label: "Crown and shoots" },
  { id: "leaf", label: "Leaf and needle" },
  { id: "fruit", label: "Fruit" },
  { id: "base", label: "Base and soil" },
  { id: "around", label: "Around" },
];

interface EveryProps {
  vocabulary: NonNullable<ReturnType<typeof useVocabulary>["data"]>;
  taken: string[];
  onPut: (body: BodyOf<"sign">) => void;
}

/** Every sign, by the part it is on. */
function EverySign({ vocabulary, taken, onPut }: EveryProps) {
  return (
    <section aria-label="All signs">
      <h2 className="text-xl">All signs</h2>
      {PARTS.map((part) => (
        <details key={part.id} className="border-b border-rule">
          <summary className="min-h-[53px] cursor-pointer py-3 font-bold">{part.label}</summary>
          <SignChoices
            signs={vocabulary.signs
              .filter((s) => s.part === part.id && !taken.includes(s.id))
              .map((s) => s.id)}
            vocabulary={vocabulary}
            onPut={onPut}
          />
        </details>
      ))}
    </section>
  );
}
