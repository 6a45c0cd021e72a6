import { useQuery } from "@tanstack/react-query";
import { api, unwrap } from "@/api/client";
import { monthsAfter } from "@/shared/dates";
import { readNumber } from "@/shared/numbers";
import { type Draft, withOne } from "@/shared/records/draft";
import { type BodyOf, entryOf } from "@/shared/records/entries";
import type { Vocabulary } from "@/shared/records/reads";
import { Term } from "@/shared/terms/Term";
import { Button, Check, Choice, Field, Notice, Select } from "@/shared/ui";
import type { StepProps } from "./SurveyPage";

type Risk = BodyOf<"risk">;
type Row = Risk["rows"][number];

// a row that is being filled in: the words that are missing are empty until they are chosen
const EMPTY_ROW = { part: "", target: "", failure: "", impact: "", consequence: "" } as unknown as Row;
const MONTHS = 12;
const LIKELIHOODS = [
  { key: "failure", label: "Likelihood of failure" },
  { key: "impact", label: "Likelihood of impact" },
  { key: "consequence", label: "Consequences of failure" },
] as const;

/** Risk worksheet: a row for each part and target, rated by the published tables. It records; an assessor decides. */
export function RiskSheet({
  draft,
  change,
  vocabulary,
}: {
  draft: Draft;
  change: StepProps["change"];
  vocabulary: Vocabulary;
}) {
  const sheet = entryOf(draft, "risk")?.body;
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
  const rated = useQuery({
    queryKey: ["risk", sheet, draft.local_date],
    enabled: Boolean(whole),
    retry: false,
    queryFn: async () => {
      const { years, level, base_seen, crown_seen, rows } = sheet as Risk;
      return unwrap(
        await api.POST("/api/condition/risk/", {
          body: { years, level, base_seen, crown_seen, rows, on: draft.local_date } as never,
        }),
      );
    },
  });
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
  const described = vocabulary.records.kinds.find((k) => k.id === "risk")?.fields;
  const meanings = described?.find((f) => f.id === "rows")?.of?.fields;
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
        <fieldset key={i} className="grid grid-cols-2 gap-2 border-t border-rule pt-2">
          <legend className="sr-only">Row {i + 1}</legend>
          <Field
            label="Part that may fail"
            value={r.part}
            maxLength={80}
            onChange={(e) => row(i, { part: e.target.value })}
          />
          <Field
            label="What it may hit"
            value={r.target}
            maxLength={80}
            onChange={(e) => row(i, { target: e.target.value })}
          />
          {LIKELIHOODS.map(({ key, label }) => (
            <Select
              key={key}
              label={label}
              hint={meanings?.find((f) => f.id === key)?.meaning}
              value={r[key]}
              onChange={(e) => row(i, { [key]: e.target.value })}
            >
              <option value="">choose</option>
              {words(key).map((w) => (
                <option key={w.id} value={w.id}>
                  {w.label}
                </option>
              ))}
            </Select>
          ))}
          <Field
            label="Work proposed"
            value={r.work ?? ""}
            maxLength={120}
            onChange={(e) => row(i, { work: e.target.value })}
          />
          {r.work && (
            <Select
              label="Failure after the work"
              value={r.failure_after ?? ""}
              onChange={(e) => row(i, { failure_after: e.target.value as Row["failure"] | "" })}
            >
              <option value="">as before</option>
              {words("failure").map((w) => (
                <option key={w.id} value={w.id}>
                  {w.label}
                </option>
              ))}
            </Select>
          )}
          {rated.data?.rows[i] && (
            <p className="col-span-2">
              This row: <strong>{rated.data.rows[i].rating}</strong>
              {rated.data.rows[i].residual !== rated.data.rows[i].rating &&
                `, after the work ${rated.data.rows[i].residual}`}
            </p>
          )}
        </fieldset>
      ))}
      <Button onClick={() => edit(({ rows }) => ({ rows: [...rows, EMPTY_ROW] }))}>
        Another part or target
      </Button>
      {rated.error && <Notice kind="refused">{rated.error.message}</Notice>}
      {rated.data && (
        <p aria-live="polite">
          {rated.data.rating ? (
            <>
              The tree takes its highest row: <strong className="figure text-3xl">{rated.data.rating}</strong>{" "}
              within {rated.data.years} {rated.data.years === 1 ? "year" : "years"}
              {rated.data.residual !== rated.data.rating && `, after the work ${rated.data.residual}`}.
            </>
          ) : (
            <strong>{rated.data.why}</strong>
          )}{" "}
          {rated.data.says}
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
