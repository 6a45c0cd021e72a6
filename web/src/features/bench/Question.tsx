import { useEffect, useState } from "react";
import type { Schemas } from "@/api/client";
import type { DraftLook } from "@/shared/records/draft";
import { type Character, useDrawings, type Vocabulary } from "@/shared/records/reads";
import { Button, Choice, Field, Keypad, Notice } from "@/shared/ui";

interface Props {
  character: Character;
  vocabulary: Vocabulary;
  suggested: boolean;
  look: Schemas["NextLook"] | undefined;
  withheld: string | undefined;
  previous: DraftLook | undefined;
  /** the organ is down: what is looked at lies on the ground */
  fallen: boolean;
  onAnswer: (look: Omit<DraftLook, "id">) => void;
  onSkip: () => void;
}

/** One character as a plain question. Number keys pick an answer; each answer says what it would do. */
export function Question({ character: c, vocabulary, suggested, look, withheld, previous, fallen, onAnswer, onSkip }: Props) {
  const [certainty, setCertainty] = useState<DraftLook["certainty"]>(previous?.certainty ?? "likely");
  const [seen, setSeen] = useState<DraftLook["seen"]>(previous?.seen ?? (fallen ? "litter" : "plant"));
  const answer = (part: Partial<DraftLook>) => onAnswer({ character: c.id, certainty, seen, ...part });
  const sampled = c.kind === "count" || c.kind === "measure";
  return (
    <div>
      <p className="text-sm text-soft">
        {suggested ? "Best next look" : "A look"} · {c.organ}, {c.tools.join(" and ").replaceAll("_", " ")}, about {c.effort_s} seconds
        {look ? ` · ${look.gain_bits.toFixed(2)} bits` : ""}
      </p>
      <h2 className="text-2xl md:text-3xl">{c.label}?</h2>
      <p className="mt-1">{c.how}</p>
      <p className="mb-4 text-sm text-soft">
        <span className="italic">{c.term}</span>. Usual mistake: {c.mistake}
      </p>
      {withheld ? (
        <Notice kind="caution" title="Withheld.">
          {withheld}
        </Notice>
      ) : sampled ? (
        <Sample character={c} previous={previous?.values ?? []} onDone={(values) => answer({ values })} />
      ) : (
        <Tiles
          character={c}
          vocabulary={vocabulary}
          look={look}
          previous={previous?.states ?? []}
          onDone={(states) => answer({ states })}
        />
      )}
      <div className="mt-4 flex flex-wrap items-end gap-3">
        <Choice
          label="How sure"
          value={certainty}
          onChange={(v) => setCertainty(v as DraftLook["certainty"])}
          options={[
            { id: "sure", label: "sure" },
            { id: "likely", label: "likely" },
            { id: "unsure", label: "unsure" },
          ]}
        />
        <Choice
          label="Seen on"
          value={seen}
          onChange={(v) => setSeen(v as DraftLook["seen"])}
          options={[
            { id: "plant", label: "the plant" },
            { id: "litter", label: "the ground" },
          ]}
        />
      </div>
      <div className="mt-4 flex flex-wrap gap-2">
        {!withheld && <Button onClick={() => answer({ none: true, states: undefined, values: undefined })}>Looked, not there</Button>}
        <Button onClick={onSkip}>Can't tell, another look</Button>
      </div>
    </div>
  );
}

/** Answer tiles; many-state characters take several before they are kept. */
function Tiles({
  character: c,
  vocabulary,
  look,
  previous,
  onDone,
}: {
  character: Character;
  vocabulary: Vocabulary;
  look: Schemas["NextLook"] | undefined;
  previous: string[];
  onDone: (states: string[]) => void;
}) {
  const [chosen, setChosen] = useState<string[]>(c.kind === "many" ? previous : []);
  const drawn = useDrawings(vocabulary.version).data?.drawings[c.id];
  const states = c.states.filter((s) => s.id !== "none" || c.kind === "one");
  const pick = (id: string) => {
    if (c.kind === "one") return onDone([id]);
    setChosen(chosen.includes(id) ? chosen.filter((s) => s !== id) : [...chosen, id]);
  };
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLElement && ["INPUT", "TEXTAREA", "SELECT"].includes(event.target.tagName);
      const state = states[Number(event.key) - 1];
      if (!typing && !event.ctrlKey && !event.metaKey && !event.altKey && state) pick(state.id);
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  });
  return (
    <>
      <ul className="grid grid-cols-2 gap-3 md:grid-cols-3">
        {states.map((s, i) => {
          const on = chosen.includes(s.id ?? "");
          const then = look?.outcomes.find((o) => o.state === s.id);
          return (
            <li key={s.id}>
              <button
                type="button"
                aria-pressed={c.kind === "many" ? on : undefined}
                onClick={() => pick(s.id ?? "")}
                className={`relative flex h-full min-h-[88px] w-full flex-col justify-start rounded-tile border-2 px-3 pb-2 pt-3 text-left ${on ? "border-moss bg-lichen" : previous.includes(s.id ?? "") && c.kind === "one" ? "border-moss bg-sheet" : "border-rule bg-sheet"}`}
              >
                {i < 9 && <span className="absolute right-2 top-1 text-sm text-soft">{i + 1}</span>}
                {drawn?.[s.id ?? ""] && (
                  <img
                    alt="" // the label below says it
                    className={`mb-2 h-24 w-full ${c.organ === "bark" ? "object-cover" : "bg-[#fdfaf2] object-contain"}`}
                    src={`data:image/svg+xml,${encodeURIComponent(drawn[s.id ?? ""] ?? "")}`}
                  />
                )}
                <span className="block pr-4 text-lg font-bold leading-tight">{s.label}</span>
                {then && (
                  <span className="mt-1 block text-sm text-soft">
                    then {nameOf(vocabulary, then.leader)} {`${Math.round(then.leader_probability * 100)}\u00a0%`}
                  </span>
                )}
              </button>
            </li>
          );
        })}
      </ul>
      {c.kind === "many" && (
        <Button weight="act" className="mt-3 w-full" disabled={chosen.length === 0} onClick={() => onDone(chosen)}>
          {chosen.length === 0
            ? "Pick all that are there"
            : `Keep: ${chosen.map((id) => c.states.find((s) => s.id === id)?.label).join(", ")}`}
        </Button>
      )}
    </>
  );
}

/** Values of several leaves, twigs or fruits, with their running mean. */
function Sample({ character: c, previous, onDone }: { character: Character; previous: number[]; onDone: (values: number[]) => void }) {
  const [values, setValues] = useState<number[]>(previous);
  const [typed, setTyped] = useState("");
  const [wrong, setWrong] = useState("");
  const [low = 0, high = Number.POSITIVE_INFINITY] = c.range;
  const whole = c.kind === "count";
  const add = () => {
    const number = Number(typed.replace(",", "."));
    if (!typed || !Number.isFinite(number) || number < low || number > high || (whole && !Number.isInteger(number)))
      return setWrong(`${typed || "nothing"} is not allowed; ${whole ? "a whole number" : "a number"} from ${low} to ${high} ${c.unit}.`);
    setWrong("");
    setTyped("");
    setValues([...values, number]);
  };
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  return (
    <div className="grid gap-3 md:grid-cols-2">
      <div>
        <p className="figure text-5xl font-semibold" aria-live="polite">
          {values.length ? mean.toFixed(1) : "–"}{" "}
          <span className="font-sans text-base font-normal text-soft">
            mean of {values.length} {c.unit}
          </span>
        </p>
        <ul className="my-3 flex flex-wrap gap-2" aria-label="Values so far">
          {values.map((v, i) => (
            <li key={i}>
              <button
                type="button"
                className="min-h-[44px] min-w-[44px] border-2 border-rule bg-sheet px-2"
                aria-label={`Remove ${v}`}
                onClick={() => setValues(values.filter((_, j) => j !== i))}
              >
                {v} ×
              </button>
            </li>
          ))}
        </ul>
        <Field
          label={`Next (${c.unit})`}
          inputMode={whole ? "numeric" : "decimal"}
          value={typed}
          error={wrong || undefined}
          onChange={(e) => setTyped(e.target.value)}
          onKeyDown={(e) => e.key === "Enter" && add()}
        />
        <Button weight="act" className="mt-3 w-full" disabled={values.length === 0} onClick={() => onDone(values)}>
          Keep {values.length || "the"} {values.length === 1 ? "value" : "values"}
        </Button>
      </div>
      <Keypad value={typed} onChange={setTyped} onDone={add} doneLabel="Add" whole={whole} disabled={!typed} />
    </div>
  );
}

export function nameOf(vocabulary: Vocabulary, taxon: string): string {
  if (taxon === "unlisted") return "not in this list";
  const node = vocabulary.taxa.find((t) => t.id === taxon);
  return node ? node.common || node.name : `another ${vocabulary.taxa.find((t) => t.id === taxon.replace(/-unlisted$/, ""))?.name ?? ""}`;
}
