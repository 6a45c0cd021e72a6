import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "@/api/client";

export type YearPlan = Schemas["Plan"];
export type Planned = YearPlan["jobs"][number];
export type PlanRun = Schemas["PlanRun"];
export type WorkSettings = Schemas["WorkSettingsIn"];

const LOOK_EVERY_MS = 1000;
const at = (site: string | undefined) => ({ params: { path: { site_id: site ?? "" } } });

/** Whether a run of the planner is not over. */
export const isOpen = (run: PlanRun | null | undefined): boolean =>
  run?.state === "waiting" || run?.state === "running";

/** The plan that holds, and the newest run of the planner; asked again while one is on its way. */
export function useYearPlan(site: string | undefined) {
  return useQuery({
    queryKey: ["year plan", site],
    enabled: Boolean(site),
    queryFn: async () => unwrap(await api.GET("/api/sites/{site_id}/work/plan/", at(site))),
    refetchInterval: (query) => (isOpen(query.state.data?.run) ? LOOK_EVERY_MS : false),
  });
}

/** Asks for a plan, calls one off, or puts a job on a day and plans the rest anew. */
export function usePlanning(site: string, on: string) {
  const client = useQueryClient();
  const again = () => client.invalidateQueries({ queryKey: ["year plan", site] });
  const ask = async () =>
    unwrap(await api.POST("/api/sites/{site_id}/work/plan/", { ...at(site), body: { on } }));
  return useMutation({
    mutationFn: async (act: "plan" | "cancel" | { job: string; on: string | null }) => {
      if (act === "cancel") unwrap(await api.DELETE("/api/sites/{site_id}/work/plan/", at(site)));
      else {
        if (act !== "plan")
          unwrap(
            await api.POST("/api/sites/{site_id}/work/moves/", { ...at(site), body: { ...act, today: on } }),
          );
        await ask();
      }
    },
    onSettled: again,
  });
}

export function useWorkSettings(site: string | undefined) {
  return useQuery({
    queryKey: ["work settings", site],
    enabled: Boolean(site),
    queryFn: async () => unwrap(await api.GET("/api/sites/{site_id}/work/settings/", at(site))),
  });
}

/** What to do with so much money; null: nothing is asked yet. */
export function useSpending(site: string, on: string, money: number | null) {
  return useQuery({
    queryKey: ["spending", site, on, money],
    enabled: money !== null,
    queryFn: async () =>
      unwrap(
        await api.GET("/api/sites/{site_id}/work/budget/", {
          params: { path: { site_id: site }, query: { on, money: money ?? 0 } },
        }),
      ),
  });
}

/** Where a file of the site's work is; of some jobs alone, where they are named. */
export const fileOf = (site: string, name: string, on: string, jobs: string[] = []): string =>
  `/api/sites/${site}/work/${name}?${new URLSearchParams([["on", on], ...jobs.map((j) => ["job", j])])}`;
