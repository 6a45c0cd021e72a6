import { keepPreviousData, useInfiniteQuery } from "@tanstack/react-query";
import { createColumnHelper, flexRender, getCoreRowModel, useReactTable } from "@tanstack/react-table";
import { ChevronDown, ChevronUp } from "lucide-react";
import { useDeferredValue, useEffect, useMemo, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { api, unwrap } from "@/api/client";
import { readNumber } from "@/shared/numbers";
import { nameShown } from "@/shared/records/labels";
import { useSiteOf } from "@/shared/records/place";
import { type Row, useBlocks, useVocabulary } from "@/shared/records/reads";
import { type Units, useUnitsOf } from "@/shared/site/units";
import { Button, Field, PageState, Select } from "@/shared/ui";

const column = createColumnHelper<Row>();
const columnsIn = (units: Units) => [
  column.accessor("tag", {
    header: "Tag",
    cell: (c) => (
      <Link to={`/history/${c.row.original.id}`} className="whitespace-nowrap font-bold text-slate underline">
        {c.getValue() || "no tag"}
        {c.row.original.tag_clash && <span className="ml-1 text-rust">twice</span>}
      </Link>
    ),
  }),
  column.accessor("name", {
    header: "Name",
    cell: (c) => (
      <span className="latin whitespace-nowrap text-[1.05rem]">
        {nameShown(c.getValue(), c.row.original.name_rank) || "not named"}
      </span>
    ),
  }),
  column.accessor("dbh_cm", {
    header: `Diameter ${units.label("cm")}`,
    cell: (c) => figureIn(units, c.getValue(), "cm"),
  }),
  column.accessor("height_m", {
    header: `Height ${units.label("m")}`,
    cell: (c) => figureIn(units, c.getValue(), "m"),
  }),
  column.accessor("condition", { header: "Condition", cell: (c) => c.getValue().replaceAll("_", " ") }),
  column.accessor("life", { header: "Life", cell: (c) => c.getValue().replaceAll("_", " ") }),
  column.accessor("signs", {
    header: "Signs",
    enableSorting: false,
    cell: (c) => <Signs ids={c.getValue()} />,
  }),
  column.accessor("visits", { header: "Visits" }),
  column.accessor("last_seen", {
    header: "Last seen",
    cell: (c) => <span className="whitespace-nowrap">{c.getValue()}</span>,
  }),
];
const figureIn = (units: Units, value: number | null, si: string) =>
  value === null ? "" : units.figure(value, si);
const NUMERIC = new Set(["dbh_cm", "height_m", "visits"]);

/** Every tree in one table: filter, sort, open. The address holds filter and sort, so that back and reload keep them. */
export function InventoryPage() {
  const [params, setParams] = useSearchParams();
  const blocks = useBlocks();
  const vocabulary = useVocabulary();
  const navigate = useNavigate();
  const sort = params.get("sort") ?? "tag";
  const wanted = useDeferredValue(params.toString());
  const inventory = useInfiniteQuery({
    queryKey: ["inventory", wanted],
    initialPageParam: undefined as string | undefined,
    placeholderData: keepPreviousData,
    queryFn: async ({ pageParam }) =>
      unwrap(
        await api.GET("/api/inventory/", {
          params: {
            query: {
              ...Object.fromEntries(new URLSearchParams(wanted)),
              ...(pageParam ? { cursor: pageParam } : {}),
            },
          },
        }),
      ),
    getNextPageParam: (page) => page.next ?? undefined,
  });
  const rows = useMemo(() => inventory.data?.pages.flatMap((p) => p.rows) ?? [], [inventory.data]); // new rows at every render would never settle
  const units = useUnitsOf(useSiteOf(params.get("block") ?? blocks.data?.[0]?.id));
  const columns = useMemo(() => columnsIn(units), [units]);
  const table = useReactTable({
    data: rows,
    columns,
    getCoreRowModel: getCoreRowModel(),
    getRowId: (r) => r.id,
  });
  const change = (key: string, value: string) =>
    setParams(
      (now) => {
        const next = new URLSearchParams(now);
        if (value) next.set(key, value);
        else next.delete(key);
        return next;
      },
      { replace: true },
    );
  const first = inventory.data?.pages[0];
  return (
    <div className="p-4">
      <header className="mb-3 flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-2xl">Inventory</h1>
        <p role="status" className="text-soft">
          {first ? `${first.count_exact ? "" : "more than "}${first.count.toLocaleString()} plants` : ""}
        </p>
        <Link to="/glossary" className="ml-auto text-slate underline">
          What the terms mean
        </Link>
      </header>
      <div className="mb-4 grid grid-cols-2 gap-3 md:grid-cols-5">
        <Select
          label="Block"
          value={params.get("block") ?? ""}
          onChange={(e) => change("block", e.target.value)}
        >
          <option value="">all blocks</option>
          {blocks.data?.map((b) => (
            <option key={b.id} value={b.id}>
              {b.name}
            </option>
          ))}
        </Select>
        <Field
          label="Tag or name"
          type="search"
          value={params.get("words") ?? ""}
          onChange={(e) => change("words", e.target.value)}
        />
        <Select
          label="Condition"
          value={params.get("condition") ?? ""}
          onChange={(e) => change("condition", e.target.value)}
        >
          <option value="">any</option>
          {vocabulary.data?.conditions.map((c) => (
            <option key={c.id} value={c.id}>
              {c.label}
            </option>
          ))}
        </Select>
        <Select
          label="Sign"
          value={params.get("sign") ?? ""}
          onChange={(e) => change("sign", e.target.value)}
        >
          <option value="">any</option>
          {vocabulary.data?.signs.map((s) => (
            <option key={s.id} value={s.id}>
              {s.label}
            </option>
          ))}
        </Select>
        <DiameterFrom
          units={units}
          value={params.get("dbh_from") ?? ""}
          onChange={(value) => change("dbh_from", value)}
        />
      </div>
      {inventory.error && <PageState error={inventory.error} what="the inventory" />}
      {first && rows.length === 0 && <p>Nothing fits these filters.</p>}
      {rows.length > 0 && (
        <section className="overflow-x-auto" aria-label="Trees" tabIndex={-1}>
          <table className="w-full min-w-[56rem] border-collapse text-left">
            <thead className="border-b-2 border-ink">
              {table.getHeaderGroups().map((group) => (
                <tr key={group.id}>
                  {group.headers.map((h) => (
                    <th
                      key={h.id}
                      scope="col"
                      aria-sort={sort === h.id ? "ascending" : sort === `-${h.id}` ? "descending" : undefined}
                      className={`pr-4 ${NUMERIC.has(h.id) ? "text-right" : ""}`}
                    >
                      {h.column.columnDef.enableSorting === false ? (
                        flexRender(h.column.columnDef.header, h.getContext())
                      ) : (
                        <button
                          type="button"
                          className="min-h-[44px] font-bold"
                          onClick={() => change("sort", sort === h.id ? `-${h.id}` : h.id)}
                        >
                          {flexRender(h.column.columnDef.header, h.getContext())}{" "}
                          {sort === h.id && <ChevronUp className="inline" size={18} aria-hidden />}
                          {sort === `-${h.id}` && <ChevronDown className="inline" size={18} aria-hidden />}
                        </button>
                      )}
                    </th>
                  ))}
                </tr>
              ))}
            </thead>
            <tbody>
              {table.getRowModel().rows.map((row) => (
                <tr
                  key={row.id}
                  className="border-b border-rule hover:bg-sheet"
                  onDoubleClick={() => navigate(`/history/${row.id}`)}
                >
                  {row.getVisibleCells().map((cell) => (
                    <td
                      key={cell.id}
                      className={`py-1.5 pr-4 ${NUMERIC.has(cell.column.id) ? "text-right" : ""}`}
                    >
                      {flexRender(cell.column.columnDef.cell, cell.getContext())}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
      {inventory.hasNextPage && (
        <Button
          className="mt-4"
          disabled={inventory.isFetchingNextPage}
          onClick={() => void inventory.fetchNextPage()}
        >
          100 more
        </Button>
      )}
    </div>
  );
}

/** The least diameter; a decimal comma is as good as a point, and what is no number filters nothing and says so. */
const LARGEST_CM = 10_000;

/** The least diameter, typed in the units of the site; the address holds it in cm. */
function DiameterFrom(props: { units: Units; value: string; onChange: (cm: string) => void }) {
  const { units, value, onChange } = props;
  const shown = value === "" ? "" : units.typed(Number(value), "cm");
  const [typed, setTyped] = useState(shown);
  const read = (text: string) => {
    const cm = units.read(text, "cm");
    return cm !== null && cm >= 0 && cm <= LARGEST_CM ? cm : null;
  };
  // the address may change by going back; what is typed follows unless it says the same
  useEffect(() => setTyped((now) => (readNumber(now) === readNumber(shown) ? now : shown)), [shown]);
  return (
    <Field
      label={`Diameter from (${units.label("cm")})`}
      inputMode="decimal"
      value={typed}
      error={
        typed.trim() !== "" && read(typed) === null
          ? `A number from 0 to ${Math.floor(Number(units.typed(LARGEST_CM, "cm")))}`
          : undefined
      }
      onChange={(e) => {
        setTyped(e.target.value);
        onChange(String(read(e.target.value) ?? ""));
      }}
    />
  );
}

function Signs({ ids }: { ids: string[] }) {
  const vocabulary = useVocabulary();
  return <>{ids.map((id) => vocabulary.data?.signs.find((s) => s.id === id)?.label ?? id).join(", ")}</>;
}
