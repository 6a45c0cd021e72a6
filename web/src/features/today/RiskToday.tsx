import { useQueries } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, unwrap } from "@/api/client";

const ASKED = [
  ["high_or_more", "high or more, incomplete ones too"],
  ["incomplete", "incomplete: base or crown still to be seen"],
] as const;

/** How many trees are at high risk or more, and how many sheets wait for a look at base or crown; nothing where none are. */
export function RiskToday() {
  const counts = useQueries({
    queries: ASKED.map(([risk]) => ({
      queryKey: ["inventory count", risk],
      queryFn: async () =>
        unwrap(await api.GET("/api/inventory/", { params: { query: { risk, sort: "-risk" } } })),
    })),
  });
  const shown = ASKED.map(([risk, label], i) => ({ risk, label, data: counts[i]?.data })).filter(
    ({ data }) => data && data.count > 0,
  );
  if (shown.length === 0) return null;
  return (
    <section aria-label="Risk" className="mb-6 border-l-4 border-rust pl-3">
      <h2 className="text-xl">Risk</h2>
      <ul>
        {shown.map(({ risk, label, data }) => (
          <li key={risk}>
            <Link
              to={`/inventory?risk=${risk}&sort=-risk`}
              className="inline-flex min-h-[44px] items-center gap-2 text-slate underline"
            >
              <span className="figure text-lg">
                {data?.count_exact ? "" : "over "}
                {data?.count.toLocaleString()}
              </span>
              {label}
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
