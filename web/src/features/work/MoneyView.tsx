import { useState } from "react";
import { Link } from "react-router";
import { readNumber } from "@/shared/numbers";
import { Field, Notice } from "@/shared/ui";
import { useSpending, useYearPlan, type YearPlan } from "./usePlan";

type Spent = NonNullable<ReturnType<typeof useSpending>["data"]>;
const BY = { month: "By month", block: "By block", kind: "By kind of work" } as const;

/** What to do with so much money, and what the plan costs by month, block and kind. */
export function MoneyView({ site, on, currency }: { site: string; on: string; currency: string }) {
  const plan = useYearPlan(site).data?.plan ?? null;
  const [typed, setTyped] = useState("");
  const money = readNumber(typed);
  const spending = useSpending(site, on, money !== null && money >= 0 ? money : null);
  return (
    <section aria-label="Money" className="grid gap-6">
      <div className="max-w-sm">
        <Field
          label={`Money to spend${currency ? ` (${currency})` : ""}`}
          inputMode="decimal"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          error={typed && (money === null || money < 0) ? `${typed} is not a sum of money.` : undefined}
          hint="What it does best against risk, and what it leaves undone."
        />
      </div>
      {spending.error && <Notice kind="refused">{spending.error.message}</Notice>}
      {spending.data && <Spending told={spending.data} />}
      {plan ? <Totals plan={plan} /> : <p className="text-soft">No plan yet: totals come with the year.</p>}
    </section>
  );
}

function Spending({ told }: { told: Spent }) {
  const sum = (cost: number) => `${Math.round(cost).toLocaleString("en")} ${told.currency}`.trim();
  const weights = Object.entries(told.weights).map(([word, points]) => `${word} ${points}`);
  return (
    <div className="grid gap-4">
      <p>
        {sum(told.spent)} for {told.done.length + told.then.length} jobs. {told.done.length} of them take away{" "}
        <b>{told.taken_away}</b> risk points; no choice for this money takes more than{" "}
        {Math.floor(told.at_most)}.
      </p>
      <p className="text-sm text-soft">
        A rating is a word, not a measure: these weights are this tool's choice ({weights.join(", ")}). A tree
        rated low afterwards is supposed.
      </p>
      <div className="grid gap-6 md:grid-cols-3">
        <List title="Done with it" rows={told.done} sum={sum} />
        <List title="Then, by urgency: no risk rated" rows={told.then} sum={sum} />
        <List title="Left undone" rows={[...told.undone, ...told.unrated]} sum={sum} />
      </div>
    </div>
  );
}

const MOST = 12;

function List({ title, rows, sum }: { title: string; rows: Spent["done"]; sum: (cost: number) => string }) {
  return (
    <section aria-label={title} className="border-t-2 border-ink pt-2">
      <h3 className="font-bold">
        {title} <span className="text-soft">({rows.length})</span>
      </h3>
      <ul className="text-sm">
        {rows.slice(0, MOST).map((r) => (
          <li key={r.job} className="flex flex-wrap items-baseline gap-x-2 border-b border-rule py-1">
            <Link to={`/history/${r.plant}`} className="font-bold text-slate underline">
              {r.tag || "no tag"}
            </Link>
            <span className="flex-1">{r.title}</span>
            {r.points > 0 && <span className="text-soft">{r.points} points</span>}
            <span className="tabular-nums">{sum(r.cost)}</span>
          </li>
        ))}
      </ul>
      {rows.length > MOST && <p className="text-sm text-soft">and {rows.length - MOST} more.</p>}
    </section>
  );
}

function Totals({ plan }: { plan: YearPlan }) {
  return (
    <div className="grid gap-6 md:grid-cols-3">
      {(Object.keys(BY) as (keyof typeof BY)[]).map((by) => (
        <section key={by} aria-label={BY[by]}>
          <h3 className="font-bold">{BY[by]}</h3>
          <table className="w-full border-collapse text-left text-sm">
            <thead>
              <tr className="border-b border-ink">
                <th className="py-1">{by}</th>
                <th className="pl-3 text-right">jobs</th>
                <th className="pl-3 text-right">h</th>
                <th className="pl-3 text-right">{plan.money.currency || "cost"}</th>
              </tr>
            </thead>
            <tbody>
              {plan.totals
                .filter((t) => t.by === by)
                .map((t) => (
                  <tr key={t.of} className="border-b border-rule align-baseline">
                    <td className="py-1">{t.of}</td>
                    <td className="pl-3 text-right tabular-nums">{t.jobs}</td>
                    <td className="pl-3 text-right tabular-nums">{Number(t.hours.toFixed(1))}</td>
                    <td className="pl-3 text-right tabular-nums">
                      {Math.round(t.cost).toLocaleString("en")}
                    </td>
                  </tr>
                ))}
            </tbody>
          </table>
        </section>
      ))}
    </div>
  );
}
