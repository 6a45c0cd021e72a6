import { keepPreviousData, useInfiniteQuery } from "@tanstack/react-query";
import { flexRender, getCoreRowModel, useReactTable } from "@tanstack/react-table";
import { ChevronDown, ChevronUp } from "lucide-react";
import { useDeferredValue, useMemo } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { api, unwrap } from "@/api/client";
import { useSiteOf } from "@/shared/records/place";
import { useBlocks } from "@/shared/records/reads";
import { useUnitsOf } from "@/shared/site/units";
import { Button, PageState } from "@/shared/ui";
import { BlockCarbon } from "./BlockCarbon";
import { columnsIn, NUMERIC } from "./columns";
import { InventoryFilters } from "./InventoryFilters";

/** Every tree in one table: filter, sort, open. The address holds filter and sort, so that back and reload keep them. */
export function InventoryPage() {
  const [params, setParams] = useSearchParams();
  const blocks = useBlocks();
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
      <InventoryFilters params={params} change={change} units={units} />
      {params.get("block") && (
        <BlockCarbon key={params.get("block")} block={params.get("block") ?? ""} units={units} />
      )}
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
