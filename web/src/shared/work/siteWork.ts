import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "@/api/client";
import { newId } from "@/shared/ids";
import { useMember } from "@/shared/member";
import { savedCopy, useSave } from "@/shared/outbox";
import { visitNow } from "@/shared/records/draft";
import type { BodyOf, EntryIn } from "@/shared/records/entries";

export type SiteWork = Schemas["SiteWork"];
export type Proposed = SiteWork["proposals"][number];
export type Job = SiteWork["jobs"][number];

/** What files propose on a site, and where each job stands; the last copy of it while offline. */
export function useSiteWork(site: string | undefined, on: string) {
  return useWorkOf(site, on, "");
}

/** The same of a block, where the site has more trees than are judged at once; else of the whole site. */
export function useBlockWork(site: string | undefined, on: string, block: string) {
  const whole = useSiteWork(site, on);
  const parted = Boolean(whole.data?.too_many && block);
  const part = useWorkOf(parted ? site : undefined, on, block);
  return parted ? part : whole;
}

function useWorkOf(site: string | undefined, on: string, block: string) {
  return useQuery({
    queryKey: ["site work", site, on, block],
    enabled: Boolean(site && on),
    queryFn: () =>
      savedCopy(`site work ${site} ${block}`.trim(), async () =>
        unwrap(
          await api.GET("/api/sites/{site_id}/work/", {
            params: { path: { site_id: site ?? "" }, query: { on, ...(block ? { block } : {}) } },
          }),
        ),
      ),
  });
}

const SOON_MS = 1500; // until what was saved has been sent, where there is a network

/** Records steps and closed checks of trees, on the device first. */
export function useRecordWork(on: string) {
  const save = useSave();
  const member = useMember();
  const client = useQueryClient();
  return async (plants: string[], entriesOf: (plant: string) => EntryIn[]) => {
    for (const plant of plants)
      await save("visit", { ...visitNow(plant, on || member.today, entriesOf(plant)), mode: "desk" });
    window.setTimeout(() => void client.invalidateQueries({ queryKey: ["site work"] }), SOON_MS);
  };
}

/** A step of a job as an entry. */
export const stepOf = (body: BodyOf<"work">): EntryIn => ({ id: newId(), kind: "work", body });
