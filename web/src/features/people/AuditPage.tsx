import { useInfiniteQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { api, type Schemas, unwrap } from "@/api/client";
import { Button, Field, PageState } from "@/shared/ui";

type Act = Schemas["Audit"];

/** Who did what, newest first: people, sites, files, exports, and records by the number sent. */
export function AuditPage() {
  const [params, setParams] = useSearchParams();
  const on = params.get("on") ?? "";
  const audit = useInfiniteQuery({
    queryKey: ["audit", on],
    initialPageParam: undefined as number | undefined,
    queryFn: async ({ pageParam }) =>
      unwrap(
        await api.GET("/api/audit/", {
          params: { query: { ...(pageParam ? { before: pageParam } : {}), ...(on ? { on } : {}) } },
        }),
      ),
    getNextPageParam: (page) => page.before ?? undefined,
  });
  if (!audit.data) return <PageState error={audit.error} what="who did what" />;
  const rows = audit.data.pages.flatMap((p) => p.rows);
  return (
    <div className="mx-auto max-w-5xl p-4 md:p-8">
      <h1 className="mb-2 text-3xl">Who did what</h1>
      <p className="mb-4 max-w-prose text-sm text-soft">
        Nothing here can be changed or taken away. Each tree's own records stand in its History, with who
        entered them.
      </p>
      <Field
        label="Only on the day (UTC)"
        type="date"
        className="mb-4 max-w-xs"
        value={on}
        onChange={(e) => setParams(e.target.value ? { on: e.target.value } : {}, { replace: true })}
      />
      {rows.length === 0 && <p>{on ? "Nothing on this day." : "Nothing yet."}</p>}
      <table className="w-full border-collapse text-left">
        <thead className="max-sm:sr-only">
          <tr className="border-b-2 border-ink">
            <th className="w-44 py-1 pr-4">When (UTC)</th>
            <th className="w-44 pr-4">Who</th>
            <th>What</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.id} className="border-b border-rule align-top max-sm:grid max-sm:py-1">
              <td className="py-1 pr-4 text-sm">{row.at.slice(0, 19).replace("T", " ")}</td>
              <td className="py-1 pr-4 font-bold">{row.actor || "the machine, or nobody signed in"}</td>
              <td className="py-1">{inWords(row)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {audit.hasNextPage && (
        <Button
          className="mt-4"
          disabled={audit.isFetchingNextPage}
          onClick={() => void audit.fetchNextPage()}
        >
          Earlier
        </Button>
      )}
    </div>
  );
}

/** The act, whom it is about, and what is known of it. */
function inWords({ words, subject, actor, detail }: Act): string {
  const about = subject && subject !== actor ? ` ${subject}` : "";
  const itself = subject && subject === actor && words.endsWith(" of") ? " their own account" : "";
  const more = Object.entries(detail)
    .map(([key, value]) => `${key.replaceAll("_", " ")}: ${shown(value)}`)
    .join("; ");
  return `${words}${about}${itself}${more ? ` (${more})` : ""}`;
}

function shown(value: unknown): string {
  if (Array.isArray(value)) return value.join(", ");
  if (typeof value === "object" && value !== null)
    return Object.entries(value)
      .map(([key, inner]) => `${key.replaceAll("_", " ")} ${inner ?? "none"}`)
      .join(", ");
  return String(value);
}
