import { monthsAfter } from "@/shared/dates";
import { readNumber } from "@/shared/numbers";
import { withOne } from "@/shared/records/draft";
import { type BodyOf, entryOf } from "@/shared/records/entries";
import type { Vocabulary } from "@/shared/records/reads";
import { Term } from "@/shared/terms/Term";
import { Button, Check, Choice, Field, Notice } from "@/shared/ui";
import { RiskRow } from "./RiskRow";
import type { StepProps } from "./stepProps";
import { useVisitCheck } from "./useVisitCheck";

type Risk = BodyOf<"risk">;
type Row = Risk["rows"][number];

// a row that is being filled in: the words that are missing are empty until they are chosen
const EMPTY_ROW = { part: "", target: "", failure: "", impact: "", consequence: "" } as unknown as Row;
const MONTHS = 12;
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
  const whole =
    sheet !== undefined &&
    sheet.years > 0 &&
    sheet.rows.length > 0 &&
    sheet.rows.every((r) => r.part && r.target && r.failure && r.impact && r.consequence);
  const check = useVisitCheck(draft, site).of(entry);
  const rated = whole ? check?.risk : undefined;
  if (!sheet)
    return (
      <Button
        onClick={() =>
          void change((now) =>
            withOne(now, "risk", {
              rows: [EMPTY_ROW],
              years: 1,
              level: "limited_visual",
              base_seen: entryOf(now, "condition")?.body.base_visible !== "not_visible",
              crown_seen: true,
              next_inspection: monthsAfter(draft.local_date, MONTHS),
            }),
          )
        }
      >
        Risk worksheet
      </Button>
    );
  const words = (key: string) => vocabulary.judged[key] ?? [];
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
      <div className="grid grid-cols-2 gap-3">
        <Field
          label="Time frame (years), needed"
          inputMode="decimal"
          value={sheet.years || ""}
          error={sheet.years > 0 ? undefined : "Without a time frame a likelihood means nothing."}
          onChange={(e) => put({ years: readNumber(e.target.value) ?? 0 })}
        />
        <Field
          label="Next inspection by"
          type="date"
          value={sheet.next_inspection ?? ""}
          onChange={(e) => put({ next_inspection: e.target.value || null })}
        />
      </div>
      <Choice
        label="Level of assessment"
        value={sheet.level}
        onChange={(level) => put({ level: level as Risk["level"] })}
        options={words("level")}
      />
      <div className="flex flex-wrap gap-x-6">
        {(["base_seen", "crown_seen"] as const).map((key) => (
          <Check
            key={key}
            label={key === "base_seen" ? "base seen all round" : "crown seen"}
            checked={sheet[key]}
            onChange={(seen) => put({ [key]: seen })}
          />
        ))}
      </div>
      {sheet.rows.map((r, i) => (
        <RiskRow
          key={i}
          number={i + 1}
          row={r}
          rated={rated?.rows[i]}
          vocabulary={vocabulary}
          onChange={(part) => row(i, part)}
        />
      ))}
      <Button onClick={() => edit(({ rows }) => ({ rows: [...rows, EMPTY_ROW] }))}>
        Another part or target
      </Button>
      {whole && check?.refused && <Notice kind="refused">{check.refused.message}</Notice>}
      {rated && (
        <p aria-live="polite">
          {rated.rating ? (
            <>
              The tree takes its highest row: <strong className="figure text-3xl">{rated.rating}</strong>{" "}
              within {rated.years} {rated.years === 1 ? "year" : "years"}
              {rated.residual !== rated.rating && `, after the work ${rated.residual}`}.
            </>
          ) : (
            <strong>{rated.why}</strong>
          )}{" "}
          {rated.says}
        </p>
      )}
      {!whole && (
        <p className="text-sm text-soft">
          Each row needs part, target and its three likelihoods before it is rated.
        </p>
      )}
    </section>
  );
}
