import { useState } from "react";
import { Link } from "react-router";
import { inWords as day } from "@/shared/dates";
import { newId } from "@/shared/ids";
import { useShortcuts } from "@/shared/shortcuts";
import { Button, Field, Notice } from "@/shared/ui";
import { type Proposed, stepOf, useRecordWork } from "@/shared/work/siteWork";
import { CheckLine, checkOf } from "./GroupChecks";
import { WorkRing } from "./WorkRing";

const PRIORITY = ["", "at once", "within 4 weeks", "this season", "programme"];
const MOST = 12;
const days = (n: number) =>
  n === 1 ? "24 hours" : n % 7 ? `${n} days` : n === 7 ? "a week" : `${n / 7} weeks`;

interface Props {
  rows: Proposed[];
  on: string;
  open: boolean;
  onOpen: () => void;
  mayDecide: boolean;
}

const nounOf = (act: string, n: number) =>
  act === "plant" ? (n === 1 ? "planting site" : "planting sites") : n === 1 ? "tree" : "trees";

/** What one rule proposes, for how many trees: why, when, after which checks; taken up or refused with a reason. */
export function ProposalGroup({ rows, on, open, onOpen, mayDecide }: Props) {
  const p = rows[0]?.proposal;
  if (!p) return null;
  return (
    <div className="border-b border-rule">
      <button
        type="button"
        aria-expanded={open}
        onClick={onOpen}
        className="flex min-h-[53px] w-full flex-wrap content-center items-baseline gap-x-3 py-2 text-left"
      >
        <b className={p.priority <= 2 ? "text-rust" : ""}>{p.title}</b>
        <span className="text-sm text-soft">
          {rows.length} {nounOf(p.act, rows.length)},{" "}
          {p.within_days ? `within ${days(p.within_days)}` : PRIORITY[p.priority]}
          {p.season && (p.season.now ? ", in season" : `, from ${day(p.season.begins)}`)}
        </span>
      </button>
      {open && <Opened rows={rows} on={on} mayDecide={mayDecide} />}
    </div>
  );
}

function Opened({ rows, on, mayDecide }: Pick<Props, "rows" | "on" | "mayDecide">) {
  const record = useRecordWork(on);
  const [refusing, setRefusing] = useState<string | null>(null);
  const [changing, setChanging] = useState<string | null>(null);
  const [reason, setReason] = useState("");
  const [instead, setInstead] = useState("");
  const [decided, setDecided] = useState<string[]>([]);
  const [at, setAt] = useState(0);
  const p = rows[0]?.proposal;
  const left = rows.filter((r) => !decided.includes(r.plant));
  const shown = left.slice(0, MOST);
  const current = shown[Math.min(at, shown.length - 1)];
  const move = (by: number) => setAt(Math.max(0, Math.min(shown.length - 1, at + by)));
  useShortcuts(
    mayDecide && current
      ? [
          { key: "a", label: "Take up for the marked tree", run: () => decide([current], "accepted") },
          { key: "c", label: "Take up changed for the marked tree", run: () => change(current) },
          { key: "r", label: "Refuse for the marked tree", run: () => setRefusing(current.plant) },
          { key: "ArrowDown", label: "Mark the next tree", run: () => move(1) },
          { key: "ArrowUp", label: "Mark the tree before", run: () => move(-1) },
        ]
      : [],
  );
  if (!p) return null;
  const asked = [...new Set(rows.flatMap((r) => r.proposal.ask))];
  const differs = p.checks.filter((c) => checkOf(rows, c.check).whys.length > 1).map((c) => c.check);
  const change = (row: Proposed) => {
    setRefusing(null);
    setInstead(row.proposal.do);
    setChanging(row.plant);
  };
  const decide = (chosen: Proposed[], step: "accepted" | "refused" | "changed") => {
    if (!p) return;
    setDecided([...decided, ...chosen.map((r) => r.plant)]);
    setRefusing(null);
    setChanging(null);
    void record(
      chosen.map((r) => r.plant),
      (plant) => {
        const row = chosen.find((r) => r.plant === plant);
        const of = row?.proposal ?? p;
        const after = row?.follows ? { follows: row.follows, part: row.part } : {};
        const job = { job: newId(), rule: of.rule, facts: of.facts, ...after };
        if (step === "refused") return [stepOf({ ...job, step, do: of.do, reason })];
        const taken = stepOf({ ...job, step: "accepted", do: of.do });
        return step === "accepted" ? [taken] : [taken, stepOf({ ...job, step, do: instead, reason })];
      },
    );
  };
  return (
    <div className="grid gap-3 pb-4">
      <p className="text-lg">{p.do}</p>
      {(rows[0]?.only.length ?? 0) > 0 && (
        <Notice kind="caution" title="On a line:">
          {rows[0]?.only.join(" ")}
        </Notice>
      )}
      {p.cautions.map((caution) => (
        <Notice key={caution} kind="caution">
          {caution}
        </Notice>
      ))}
      <dl className="grid gap-x-6 text-sm sm:grid-cols-[9rem_1fr]">
        <Line label="Season">{p.season ? <WorkRing season={p.season} on={on} /> : "any"}</Line>
        {p.checks.length > 0 && (
          <Line label="Checks">
            {p.checks.map((c) => (
              <CheckLine key={c.check} of={checkOf(rows, c.check)} />
            ))}
          </Line>
        )}
        {asked.length > 0 && <Line label="Ask">{asked.join("; ")}</Line>}
        {p.lighter.length > 0 && <Line label="Lighter first">{p.lighter.map((l) => l.says).join(" ")}</Line>}
        {p.equipment && (
          <Line label="How">
            {p.equipment}
            {p.refuses.length > 0 && `, never: ${p.refuses.join(", ")}`}
          </Line>
        )}
        {p.note && <Line label="Note">{p.note}</Line>}
        {p.standard && <Line label="Standard">{p.standard}</Line>}
        <Line label="Rule">
          {p.rule}: {p.source}. Local rules and licensed people decide.
        </Line>
      </dl>
      <ul className="border-t border-rule">
        {shown.map((r) => (
          <li
            key={r.plant}
            aria-current={mayDecide && r === current}
            className="flex flex-wrap items-center gap-x-3 border-b border-l-4 border-rule border-l-transparent py-1 pl-2 aria-[current=true]:border-l-moss"
          >
            <Link
              to={`/history/${r.plant}`}
              className="target inline-flex items-center font-bold text-slate underline"
            >
              {r.tag || "no tag"}
            </Link>
            <span className="latin">{r.name}</span>
            <span className="flex-1 text-sm text-soft">
              {r.block_name}. {r.proposal.why.join("; ")}.
              {r.proposal.checks.filter((c) => differs.includes(c.check)).map((c) => ` ${c.title}: ${c.why}`)}
            </span>
            {mayDecide && (
              <>
                <Button
                  aria-label={`Take up ${p.title} for ${r.tag}`}
                  onClick={() => decide([r], "accepted")}
                >
                  Take up
                </Button>
                <Button
                  weight="quiet"
                  aria-label={`Change ${p.title} for ${r.tag}`}
                  onClick={() => (changing === r.plant ? setChanging(null) : change(r))}
                >
                  Change
                </Button>
                <Button
                  weight="quiet"
                  aria-label={`Refuse ${p.title} for ${r.tag}`}
                  onClick={() => setRefusing(refusing === r.plant ? null : r.plant)}
                >
                  Refuse
                </Button>
              </>
            )}
            {changing === r.plant && (
              <div className="grid w-full gap-2 pb-2">
                <Field
                  label="Work instead"
                  autoFocus
                  value={instead}
                  onChange={(e) => setInstead(e.target.value)}
                />
                <Field label="Why" value={reason} onChange={(e) => setReason(e.target.value)} />
                <Button
                  weight="act"
                  className="justify-self-start"
                  disabled={!reason.trim() || !instead.trim()}
                  onClick={() => decide([r], "changed")}
                >
                  Take it up changed
                </Button>
              </div>
            )}
            {refusing === r.plant && (
              <div className="flex w-full items-end gap-2 pb-2">
                <Field
                  label="Why"
                  className="flex-1"
                  autoFocus
                  hint="It comes back only when its facts change."
                  value={reason}
                  onChange={(e) => setReason(e.target.value)}
                />
                <Button weight="warn" disabled={!reason.trim()} onClick={() => decide([r], "refused")}>
                  Refuse
                </Button>
              </div>
            )}
          </li>
        ))}
      </ul>
      {left.length > MOST && <p className="text-sm text-soft">and {left.length - MOST} more.</p>}
      {mayDecide && left.length > 0 && (
        <p className="text-sm text-soft">
          Keys: a takes up the marked tree, c changes it first, r refuses it, up and down move the mark.
        </p>
      )}
      {decided.length > 0 && (
        <p role="status" className="text-sm">
          {decided.length} decided; saved on this device and sent when online.
        </p>
      )}
      {mayDecide && left.length > 1 && (
        <Button className="justify-self-start" onClick={() => decide(left, "accepted")}>
          Take up all {left.length}
        </Button>
      )}
    </div>
  );
}

function Line({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <>
      <dt className="text-soft">{label}</dt>
      <dd>{children}</dd>
    </>
  );
}
