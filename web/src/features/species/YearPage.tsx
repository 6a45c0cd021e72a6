import { useQuery } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import type { Schemas } from "@/api/client";
import { core } from "@/core";
import { monthName } from "@/shared/dates";
import { savedCopy } from "@/shared/outbox";
import { useCounts, usePlaceOf, useToday } from "@/shared/records/place";
import { useBlocks } from "@/shared/records/reads";
import { Button, PageState, Select } from "@/shared/ui";

type Row = Schemas["MonthRow"];
const MONTHS = Array.from({ length: 12 }, (_, i) => monthName(i + 1));
const COLOURS: Record<string, string> = {
  leaf: "var(--color-moss)",
  flower: "var(--color-ochre)",
  fruit: "var(--color-slate)",
};

/** What the taxa of a block show through the year, and for one month how each is told then. Prints as a sheet for a walk. */
export function YearPage() {
  const [params, setParams] = useSearchParams();
  const blocks = useBlocks();
  const block = params.get("block") ?? blocks.data?.[0]?.id ?? "";
  const now = useToday(block);
  const month = Number(params.get("month")) || Number(now.slice(5, 7));
  const on = `${now.slice(0, 4)}-${String(month).padStart(2, "0")}-15`;
  const counts = useCounts(block || undefined);
  const place = usePlaceOf(block);
  const sheet = useQuery({
    queryKey: ["month sheet", block, on, place, counts.data],
    enabled: block !== "" && counts.data !== undefined,
    placeholderData: (before) => before,
    queryFn: () =>
      savedCopy(`month sheet ${block} ${month}`, () =>
        core.year({ on, ...place, counts: counts.data ?? {} }),
      ),
  });
  const set = (key: string, value: string) =>
    setParams((old) => {
      const next = new URLSearchParams(old);
      next.set(key, value);
      return next;
    });
  if (!blocks.data) return <PageState error={blocks.error} what="the blocks" />;
  const name = blocks.data.find((b) => b.id === block)?.name ?? "";
  return (
    <div className="mx-auto max-w-6xl p-4 md:p-6 print:p-0">
      <header className="flex flex-wrap items-end justify-between gap-4">
        <div>
          <p className="text-soft">{name}</p>
          <h1 className="text-3xl">What shows in {MONTHS[month - 1]}</h1>
        </div>
        <div className="flex items-end gap-3 print:hidden">
          <Select label="Block" value={block} onChange={(e) => set("block", e.target.value)}>
            {blocks.data.map((b) => (
              <option key={b.id} value={b.id}>
                {b.name}
              </option>
            ))}
          </Select>
          <Select label="Month" value={month} onChange={(e) => set("month", e.target.value)}>
            {MONTHS.map((m, i) => (
              <option key={m} value={i + 1}>
                {m}
              </option>
            ))}
          </Select>
          <Button onClick={() => print()}>Print the sheet</Button>
        </div>
      </header>
      {blocks.data.length === 0 && <p className="mt-4">No block yet. A steward opens one.</p>}
      {block && !sheet.data && <PageState error={sheet.error} what="the month" />}
      {sheet.data?.length === 0 && <p className="mt-4">No named tree in this block yet.</p>}
      {sheet.data && sheet.data.length > 0 && (
        <div className="mt-4 overflow-x-auto print:overflow-visible">
          <table className="w-full min-w-[44rem] text-left print:min-w-0 print:text-sm">
            <thead>
              <tr className="border-b-2 border-ink align-bottom text-sm">
                <th className="p-1 font-normal text-soft">Taxon, trees</th>
                <th className="w-56 p-1 font-normal text-soft">
                  The year: leaf, flower, fruit
                  <MonthLetters month={month} />
                </th>
                <th className="p-1 font-normal text-soft">Shows</th>
                <th className="p-1 font-normal text-soft">Separated then from</th>
              </tr>
            </thead>
            <tbody>
              {sheet.data.map((row) => (
                <tr key={row.taxon} className="break-inside-avoid border-b border-rule align-top">
                  <th className="p-1 font-normal">
                    <Link
                      to={`/species/${row.taxon}?on=${on}&block=${block}`}
                      className="latin text-lg text-slate underline"
                    >
                      {row.name}
                    </Link>
                    <span className="block text-sm text-soft">
                      {row.common}, {row.plants}
                    </span>
                  </th>
                  <td className="p-1">
                    <Lanes row={row} month={month} />
                  </td>
                  <td className="p-1">{row.shows.join(", ")}</td>
                  <td className="p-1 text-sm">
                    {row.separated
                      .filter((t) => t.by.length > 0)
                      .map((t) => (
                        <p key={t.name}>
                          <span className="latin text-base">{t.name}</span>: {t.by.join("; ")}
                        </p>
                      ))}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <p className="mt-4 text-sm text-soft print:text-xs">
        Dates are moved to this site by latitude, longitude and height; a year may run two weeks ahead or
        behind.
      </p>
    </div>
  );
}

/** Three lanes of half-months; the month of the sheet stands between two lines. */
function Lanes({ row, month }: { row: Row; month: number }) {
  const said = row.lanes.map((l) => `${l.label} ${spans(l.year)}`).join("; ");
  return (
    <svg
      className="block h-10 w-52"
      viewBox="0 0 240 30"
      preserveAspectRatio="none"
      role="img"
      aria-label={said}
    >
      {row.lanes.map((lane, i) => (
        <g key={lane.organ}>
          <rect y={i * 10 + 4.5} width="240" height="0.8" fill="var(--color-rule)" />
          {lane.year.map((share, half) => (
            <rect
              key={half}
              x={half * 10}
              y={i * 10 + 1}
              width="10.2"
              height="8"
              fill={COLOURS[lane.organ]}
              fillOpacity={share < 0.05 ? 0 : 0.25 + 0.75 * share}
            />
          ))}
        </g>
      ))}
      {[(month - 1) * 20, month * 20].map((x) => (
        <rect key={x} x={x - 0.6} width="1.2" height="30" fill="var(--color-ink)" />
      ))}
    </svg>
  );
}

function MonthLetters({ month }: { month: number }) {
  return (
    <span className="grid w-52 grid-cols-12 text-center text-xs" aria-hidden="true">
      {MONTHS.map((m, i) => (
        <span key={m} className={i + 1 === month ? "bg-ink font-bold text-paper" : ""}>
          {m[0]}
        </span>
      ))}
    </span>
  );
}

/** The months in which an organ mostly shows, for those who cannot see the lanes. */
function spans(year: number[]): string {
  const months = MONTHS.filter((_, i) => ((year[2 * i] ?? 0) + (year[2 * i + 1] ?? 0)) / 2 >= 0.5);
  return months.length === 12 ? "all year" : months.map((m) => m.slice(0, 3)).join(" ") || "not";
}
