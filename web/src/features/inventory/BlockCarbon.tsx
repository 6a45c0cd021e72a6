import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, unwrap } from "@/api/client";
import type { Units } from "@/shared/site/units";
import { Term } from "@/shared/terms/Term";
import { PageState } from "@/shared/ui";

/** Carbon of the trees that stand in a block, and how many of them have no figure, and why. */
export function BlockCarbon({ block, units }: { block: string; units: Units }) {
  const [open, setOpen] = useState(false);
  const total = useQuery({
    queryKey: ["block carbon", block],
    enabled: open,
    queryFn: async () =>
      unwrap(await api.GET("/api/blocks/{block_id}/carbon/", { params: { path: { block_id: block } } })),
  });
  const t = total.data;
  return (
    <details className="mb-3" onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary className="min-h-[44px] cursor-pointer content-center text-slate underline">
        Carbon of this block
      </summary>
      {open && !t && <PageState error={total.error} what="the carbon of this block" />}
      {t && (
        <div>
          <p>
            <Term id="carbon">Carbon</Term> of {t.trees.toLocaleString()} {t.trees === 1 ? "tree" : "trees"}:{" "}
            <strong>{units.shown(t.carbon_kg, "kg", 0)}</strong>, {units.shown(t.co2e_kg, "kg", 0)} CO₂
            equivalent.
          </p>
          {t.refused.length > 0 && (
            <>
              <p>
                No figure for {t.refused.reduce((sum, r) => sum + r.trees, 0).toLocaleString()}, which are not
                in it:
              </p>
              <ul className="list-disc pl-6">
                {t.refused.map((r) => (
                  <li key={r.why}>
                    {r.trees.toLocaleString()}: {r.why}
                  </li>
                ))}
              </ul>
            </>
          )}
        </div>
      )}
    </details>
  );
}
