import { useState } from "react";
import { Link } from "react-router";
import { Term } from "@/shared/terms/Term";
import { Button } from "@/shared/ui";
import type { Coverage, CoverageRow } from "./useCoverage";

const SHOWN_AT_ONCE = 200;
const ALL = "";
const OVERDUE = "overdue";

/** How many trees stand how, each count a filter; below it every tree with what was recorded of looking at it. */
export function CoverageTable({ report }: { report: Coverage }) {
  const [only, setOnly] = useState(ALL);
  const [most, setMost] = useState(SHOWN_AT_ONCE);
  const rows = report.rows.filter((r) => only === ALL || (only === OVERDUE ? r.overdue : r.state === only));
  const counts: [string, string, number][] = [
    [ALL, "trees that stand", report.rows.length],
    [OVERDUE, "overdue, of all", report.overdue],
    ...report.states.map((s): [string, string, number] => [s.state, s.says, s.trees]),
  ];
  return (
    <>
      <fieldset className="mb-4">
        <legend className="sr-only">Which trees are shown</legend>
        <ul className="grid gap-x-8 sm:grid-cols-2">
          {counts.map(([id, label, n]) => (
            <li key={id} className="border-b border-rule">
              <button
                type="button"
                aria-pressed={only === id}
                onClick={() => setOnly(id)}
                className={`grid min-h-[44px] w-full grid-cols-[4rem_1fr] items-center gap-3 px-1 text-left ${only === id ? "bg-lichen font-bold" : ""}`}
              >
                <span
                  className={`figure text-right text-xl ${id === OVERDUE && n > 0 ? "font-semibold text-rust" : ""}`}
                >
                  {n.toLocaleString()}
                </span>
                <span>{label}</span>
              </button>
            </li>
          ))}
        </ul>
        {report.parts_not_seen > 0 && (
          <p className="mt-2 text-sm">Base or crown was not seen whole: {report.parts_not_seen} of them.</p>
        )}
      </fieldset>
      {report.by_block.length > 1 && <ByBlock report={report} />}
      {rows.length === 0 ? (
        <p>None.</p>
      ) : (
        <div className="overflow-x-auto">
          <table className="w-full min-w-[46rem] border-collapse text-left">
            <caption className="sr-only">Trees and what was recorded of looking at them</caption>
            <thead>
              <tr className="border-b-2 border-ink text-sm">
                <th className="py-2 pr-3">Tag</th>
                <th className="pr-3">Block, street</th>
                <th className="pr-3">
                  <Term id="inspection_zone">Zone</Term>, asked for
                </th>
                <th className="pr-3">Due</th>
                <th className="pr-3">How it stands</th>
                <th>By</th>
              </tr>
            </thead>
            <tbody>
              {rows.slice(0, most).map((row) => (
                <Line key={row.tree} row={row} />
              ))}
            </tbody>
          </table>
        </div>
      )}
      {rows.length > most && (
        <Button className="mt-3" onClick={() => setMost(most + SHOWN_AT_ONCE)}>
          Show more; {rows.length - most} are left
        </Button>
      )}
    </>
  );
}

function ByBlock({ report }: { report: Coverage }) {
  return (
    <div className="mb-4 overflow-x-auto">
      <table className="border-collapse text-left text-sm">
        <caption className="sr-only">By block</caption>
        <thead>
          <tr className="border-b border-ink">
            {["Block", "Trees", "Inspected in time", "Not looked at", "Overdue"].map((head, i) => (
              <th key={head} className={`py-1 pr-3 sm:pr-6 ${i > 0 ? "text-right" : ""}`}>
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {report.by_block.map((b) => (
            <tr key={b.block} className="border-b border-rule">
              <td className="py-1 pr-3 sm:pr-6">{b.block}</td>
              <td className="pr-3 sm:pr-6 text-right tabular-nums">{b.trees}</td>
              <td className="pr-3 sm:pr-6 text-right tabular-nums">{b.in_time}</td>
              <td className="pr-3 sm:pr-6 text-right tabular-nums">{b.not_looked_at}</td>
              <td
                className={`pr-3 sm:pr-6 text-right tabular-nums ${b.overdue ? "font-bold text-rust" : ""}`}
              >
                {b.overdue}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Line({ row }: { row: CoverageRow }) {
  return (
    <tr className="border-b border-rule align-top">
      <td className="py-2 pr-3">
        <Link to={`/history/${row.tree}`} className="figure text-lg text-slate underline">
          {row.tag || "no tag"}
        </Link>
        <span className="latin block text-sm">{row.name || "not named"}</span>
      </td>
      <td className="py-2 pr-3">
        {row.block}
        {row.street && <span className="block text-sm text-soft">{row.street}</span>}
      </td>
      <td className="py-2 pr-3">
        {row.zone || "none"}
        {row.level_asked && (
          <span className="block text-sm text-soft">
            {row.level_asked.replaceAll("_", " ")}, every {row.months} months
            {row.rating && `; risk ${row.rating}`}
          </span>
        )}
      </td>
      <td className={`whitespace-nowrap py-2 pr-3 tabular-nums ${row.overdue ? "font-bold text-rust" : ""}`}>
        {row.due_on || "not set"}
      </td>
      <td className="py-2 pr-3">{row.says}</td>
      <td className="py-2">{row.shown?.inspector}</td>
    </tr>
  );
}
