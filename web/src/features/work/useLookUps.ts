import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, unwrap } from "@/api/client";
import { useSitePicked } from "@/shared/site/SitePicker";
import type { Evidence } from "@/shared/work/EvidenceForm";

export type LookUp = Schemas["LookUp"];

/** Evidence for many trees of the site: what was told, what nobody has looked up yet, telling and withdrawing it. */
export function useLookUps(site: string | undefined, on: string) {
  const client = useQueryClient();
  const picked = useSitePicked().site?.id ?? "";
  const [wrong, setWrong] = useState("");
  const path = { site_id: site ?? picked };
  const told = useQuery({
    queryKey: ["look-ups", site],
    enabled: Boolean(site),
    queryFn: async () => unwrap(await api.GET("/api/sites/{site_id}/work/look-ups/", { params: { path } })),
  });
  const missing = useQuery({
    queryKey: ["look-ups", site, "missing", on],
    enabled: Boolean(site && on),
    queryFn: async () =>
      unwrap(await api.GET("/api/sites/{site_id}/work/to-look-up/", { params: { path, query: { on } } })),
  });
  const act = async (run: () => Promise<unknown>) => {
    try {
      await run();
      setWrong("");
      await client.invalidateQueries({ queryKey: ["look-ups"] });
      await client.invalidateQueries({ queryKey: ["site work"] });
      return true;
    } catch (error) {
      setWrong(error instanceof Error ? error.message : "It was not kept.");
      return false;
    }
  };
  const make = (evidence: Evidence, blocks: string[]) =>
    act(async () =>
      unwrap(
        await api.POST("/api/sites/{site_id}/work/look-ups/", {
          params: { path },
          body: { evidence, on, blocks } as unknown as Schemas["LookUpIn"],
        }),
      ),
    );
  const withdraw = (id: string, reason: string) =>
    act(async () =>
      unwrap(
        await api.POST("/api/sites/{site_id}/work/look-ups/{look_up_id}/", {
          params: { path: { ...path, look_up_id: id } },
          body: { reason },
        }),
      ),
    );
  return {
    told: told.data,
    missing: missing.data,
    error: told.error ?? missing.error,
    make,
    withdraw,
    wrong,
  };
}
