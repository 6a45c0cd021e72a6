import { monthsAfter } from "@/shared/dates";
import { readNumber } from "@/shared/numbers";
import { isWhole, withOne } from "@/shared/records/draft";
import { type BodyOf, entryOf } from "@/shared/records/entries";
import type { Vocabulary } from "@/shared/records/reads";
import { Term } from "@/shared/terms/Term";
import { Button, Choice, Field, Notice } from "@/shared/ui";
import { ActNow } from "./ActNow";
import { Asked } from "./Asked";
import { RiskRow } from "./RiskRow";
import type { StepProps } from "./stepProps";
import { useVisitCheck } from "./useVisitCheck";

type Risk = BodyOf<"risk">;
type Row = Risk["rows"][number];

// what is not answered yet is empty; nothing is answered beforehand
const EMPTY_ROW = { part: "", target: "", failure: "", impact: "", consequence: "" } as unknown as Row;
const EMPTY = { rows: [EMPTY_ROW], years: 0, level: "", base_seen: "", crown_seen: "" } as unknown as Risk;
const YEARS = [1, 2, 3, 5];
const MONTHS = [
  [6, "in 6 months"],
  [12, "in 1 year"],
  [24, "in 2 years"],
  [36, "in 3 years"],
] as const;
const NONE_SET = "none set";

/** Risk worksheet: a row for each part and target, rated by the published tables. It records; an assessor decides. */
export function RiskSheet({
  draft,
  change,
  vocabulary,
  site,
}: Pick<StepProps, "draft" | "change" | "site"> & { vocabulary: Vocabulary }) {
  const entry = entryOf(draft, "risk");
  const sheet = entry?.body;
  // from what is on the device, not from what is on screen: two fields may be filled in at once
  const edit = (part: (before: Risk) => Partial<Risk>) =>
    void change((now) => {
      const before = entryOf(now, "risk")?.body;
      return before ? withOne(now, "risk", { ...before, ...part(before) }) : {};
    });
  const put = (part: Partial<Risk>) => edit(() => part);
  const row = (i: number, part: Partial<Row>) =>
    edit(({ rows }) => ({ rows: rows.map((r, j) => (j === i ? { ...r, ...part } : r)) }));
  const check = useVisitCheck(rateable(draft), site).of(entry);
  if (!sheet)
    return <Button onClick={() => void change((now) => withOne(now, "risk", EMPTY))}>Risk worksheet</Button>;
  const whole = isWhole(sheet);
  const rated = check?.risk;
  const words = (key: string) => vocabulary.judged[key] ?? [];
  const seen = entryOf(draft, "condition")?.body;
  const sameAsAbove = seen?.base_visible && seen.crown_visible;
  return (
    <section className="grid gap-4 border-2 border-rule p-3" aria-label="Risk worksheet">
      <div className="flex items-center justify-between">
        <h2 className="text-xl">
          <Term id="risk_rating">Risk worksheet</Term>
        </h2>
        <Button weight="quiet" onClick={() => void change((now) => withOne(now, "risk", null))}>
          Remove worksheet
        </Button>
      </div>
      {rated && <ActNow sheet={sheet} act={rated.act} onPut={put} vocabulary={vocabulary} />}
      {!rated && sheet.rows.some((r) => r.failure === "imminent") && (
        <Notice kind="caution" title="Imminent.">
          Keep people out until it is rated.
        </Notice>
      )}
      <Asked asks={check?.asks ?? []} />
      {sheet.rows.map((r, i) => (
        <RiskRow
          key={i}
          number={i + 1}
          row={r}
          rated={canBeRated(r) ? rated?.rows[sheet.rows.slice(0, i).filter(canBeRated).length] : undefined}
          vocabulary={vocabulary}
          onChange={(part) => row(i, part)}
          onRemove={
            sheet.rows.length > 1
              ? () => edit(({ rows }) => ({ rows: rows.filter((_, j) => j !== i) }))
              : undefined
          }
        />
      ))}
      <Button onClick={() => edit(({ rows }) => ({ rows: [...rows, EMPTY_ROW] }))}>
        Another part or target
      </Button>
      {!sameAsAbove || (sheet.base_seen && sheet.crown_seen) ? null : (
        <Button
          onClick={() =>
            put({
              base_seen: seen.base_visible as Risk["base_seen"],
              crown_seen: seen.crown_visible as Risk["crown_seen"],
            })
          }
        >
          Base and crown seen as under condition
        </Button>
      )}
      <Choice
        label="Base seen"
        value={sheet.base_seen}
        onChange={(how) => put({ base_seen: how as Risk["base_seen"] })}
        options={words("base_visible")}
      />
      <Choice
        label="Crown seen"
        value={sheet.crown_seen}
        onChange={(how) => put({ crown_seen: how as Risk["crown_seen"] })}
        options={words("crown_visible")}
      />
      <Choice
        label="Level of assessment"
        value={sheet.level}
        onChange={(level) => put({ level: level as Risk["level"] })}
        options={words("level")}
      />
      <div className="flex flex-wrap items-end gap-3">
        <Choice
          label="Time frame (years)"
          meaning="What the likelihoods are meant for. Without it a likelihood means nothing."
          value={sheet.years ? String(sheet.years) : ""}
          onChange={(years) => put({ years: Number(years) })}
          options={YEARS.map((y) => ({ id: String(y), label: String(y) }))}
        />
        <Field
          label="or another"
          className="w-24"
          inputMode="decimal"
          value={sheet.years && !YEARS.includes(sheet.years) ? sheet.years : ""}
          onChange={(e) => put({ years: readNumber(e.target.value) ?? 0 })}
        />
      </div>
      <div className="flex flex-wrap items-end gap-3">
        <Choice
          label="Next inspection"
          value={
            sheet.no_next
              ? NONE_SET
              : (MONTHS.find(([m]) => monthsAfter(draft.local_date, m) === sheet.next_inspection)?.[1] ?? "")
          }
          onChange={(when) => {
            const months = MONTHS.find(([, label]) => label === when)?.[0];
            put(
              months
                ? { next_inspection: monthsAfter(draft.local_date, months), no_next: false }
                : { next_inspection: null, no_next: true },
            );
          }}
          options={[...MONTHS.map(([, label]) => label), NONE_SET].map((label) => ({ id: label, label }))}
        />
        <Field
          label="or by"
          type="date"
          className="w-44"
          min={draft.local_date}
          value={sheet.next_inspection ?? ""}
          onChange={(e) => put({ next_inspection: e.target.value || null, no_next: false })}
        />
      </div>
      {check?.refused && <Notice kind="refused">{check.refused.message}</Notice>}
      {rated && whole && (
        <div aria-live="polite">
          <p>
            The tree takes its highest row: <strong className="figure text-3xl">{rated.reads}</strong> within{" "}
            {rated.years} {rated.years === 1 ? "year" : "years"}
            {rated.residual_reads !== rated.reads && `; after the work: ${rated.residual_reads}`}.{" "}
            {rated.says}
          </p>
          {rated.proposed.map((what) => (
            <p key={what} className="text-soft">
              {what}
            </p>
          ))}
        </div>
      )}
      {!whole && (
        <p className="text-sm text-soft">
          Not whole yet: each row needs a part, a target and its three factors; the sheet needs what was seen,
          the level, a time frame and the next inspection. Until then it stays a draft on this device.
        </p>
      )}
    </section>
  );
}

const canBeRated = (r: Row) => Boolean(r.failure && r.impact && r.consequence);

/**
 * The draft with a sheet whose rows can be rated before the rest is answered: what has to be done at once must not wait
 * for the level or the next inspection. What is put in their place changes nothing of that.
 */
function rateable(draft: StepProps["draft"]): StepProps["draft"] {
  const entry = entryOf(draft, "risk");
  if (!entry || isWhole(entry.body)) return draft;
  const rows = entry.body.rows.filter(canBeRated);
  const body = {
    ...entry.body,
    rows: rows.map((r) => ({ ...r, part: r.part || "part", target: r.target || "target" })),
    years: entry.body.years || 1,
    level: entry.body.level || "limited_visual",
    base_seen: entry.body.base_seen || "not_visible",
    crown_seen: entry.body.crown_seen || "not_visible",
    no_next: !entry.body.next_inspection,
  };
  const others = draft.entries.filter((e) => e.id !== entry.id);
  return { ...draft, entries: rows.length ? [...others, { ...entry, body }] : others };
}
