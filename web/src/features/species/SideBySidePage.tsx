import { useQuery } from "@tanstack/react-query";
import { Fragment } from "react";
import { Link, useSearchParams } from "react-router";
import type { Schemas } from "@/api/client";
import { core } from "@/core";
import { inWords } from "@/shared/dates";
import { usePlaceOf, useToday } from "@/shared/records/place";
import { Notice, PageState } from "@/shared/ui";
import { Plate } from "./Plate";

type Row = Schemas["SideBySide"]["rows"][number];
const ABOVE = ["twig", "leaf"];
const BELOW = ["fruit", "bark"];

/** Two to four taxa: the same plates in the same order, and a table of only what differs, what can be seen that day first. */
export function SideBySidePage() {
  const [params] = useSearchParams();
  const taxa = params.get("taxa") ?? "";
  const block = params.get("block") || undefined;
  const now = useToday(block);
  const on = params.get("on") || now;
  const place = usePlaceOf(block);
  const { data, error } = useQuery({
    queryKey: ["side by side", taxa, on, place],
    enabled: taxa !== "",
    queryFn: () => core.sideBySide({ taxa: taxa.split(",").filter(Boolean), on, ...place }),
  });
  if (!taxa)
    return (
      <div className="p-4">
        <Notice>Open two taxa side by side from Identify, or from Species.</Notice>
      </div>
    );
  if (!data) return <PageState error={error} what="what separates them" />;
  const groups: [string, Row[]][] = [
    [`On the plant on ${inWords(on)}`, data.rows.filter((r) => r.where === "plant")],
    ["On the ground under it, perhaps from a neighbour", data.rows.filter((r) => r.where === "ground")],
    ["Later in the year", data.rows.filter((r) => r.where === "later")],
  ];
  return (
    <div className="overflow-x-auto p-4">
      <h1 className="text-2xl">Side by side</h1>
      <table className={`mt-2 w-full table-fixed text-left ${data.taxa.length > 2 ? "min-w-[36rem]" : ""}`}>
        <thead>
          <tr className="align-bottom">
            <th className="hidden w-40 p-1 text-sm font-normal text-soft md:table-cell">
              drawn for {inWords(on)}
            </th>
            {data.taxa.map((t) => (
              <th key={t.taxon} className="p-1 font-normal">
                <Link to={`/species/${t.taxon}?on=${on}`} className="latin text-xl text-slate underline">
                  {t.name}
                </Link>
                <span className="block text-sm text-soft">{t.common}</span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <Plates taxa={data.taxa} parts={ABOVE} on={on} block={block} />
        </tbody>
        {groups.map(([title, rows]) => (
          <tbody key={title}>
            {rows.length > 0 && (
              <>
                <tr className="md:hidden">
                  <Title span={data.taxa.length}>{title}</Title>
                </tr>
                <tr className="hidden md:table-row">
                  <Title span={data.taxa.length + 1}>{title}</Title>
                </tr>
              </>
            )}
            {rows.map((row) => (
              <Fragment key={row.character}>
                <tr className="md:hidden">
                  <th colSpan={data.taxa.length} className="p-1 pb-0 text-sm font-normal text-soft">
                    {row.label}
                    {row.from && `, from ${inWords(row.from)}`}
                  </th>
                </tr>
                <tr className="border-b border-rule align-top">
                  <th className="hidden p-1 text-sm font-normal text-soft md:table-cell">
                    {row.label}
                    {row.from && <span className="block">from {inWords(row.from)}</span>}
                  </th>
                  {row.says.map((words, i) => (
                    <td key={data.taxa[i]?.taxon} className="p-1">
                      {words === "?" ? <span className="text-soft">not known</span> : words}
                    </td>
                  ))}
                </tr>
              </Fragment>
            ))}
          </tbody>
        ))}
        <tbody>
          <Plates taxa={data.taxa} parts={BELOW} on={on} block={block} />
        </tbody>
      </table>
    </div>
  );
}

function Title({ span, children }: { span: number; children: string }) {
  return (
    <th colSpan={span} className="border-b-2 border-ink p-1 pt-5 font-serif text-xl">
      {children}
    </th>
  );
}

function Plates({
  taxa,
  parts,
  on,
  block,
}: {
  taxa: Schemas["SideBySide"]["taxa"];
  parts: string[];
  on: string;
  block: string | undefined;
}) {
  return (
    <tr className="border-t border-rule">
      <th className="hidden p-1 align-top text-sm font-normal text-soft md:table-cell">{parts.join(", ")}</th>
      {taxa.map((t) => (
        <td key={t.taxon} className="p-1">
          <div className="flex flex-col bg-[#fdfaf2] md:flex-row">
            {parts.map((part) => (
              <Plate
                key={part}
                taxon={t.taxon}
                name={t.name}
                part={part}
                on={on}
                block={block}
                className="h-52 min-w-0 flex-1 md:h-60"
              />
            ))}
          </div>
        </td>
      ))}
    </tr>
  );
}
