import { useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "@/api/client";
import { core } from "@/core";
import { savedCopy } from "@/shared/outbox";
import type { TreeFileIn } from "@/shared/tree-file/recordsOf";

export type StepAnswer = Schemas["JobAnswer"];

/** What stands round a tree, as it was last read: people by their papers, crews, evidence for many trees. */
export function useBeforeWork(plant: string | undefined, on: string) {
  return useQuery({
    queryKey: ["before work", plant, on],
    enabled: Boolean(plant && on),
    queryFn: () =>
      savedCopy(`before work ${plant}`, async () =>
        unwrap(
          await api.GET("/api/plants/{plant_id}/before-work/", {
            params: { path: { plant_id: plant ?? "" }, query: { on } },
          }),
        ),
      ),
  });
}

/**
 * Whether a job may be started or completed now, by what this device knows, its unsent visits and this one among it.
 * unknown: nobody can say here.
 */
export function useStepHere(
  tree: TreeFileIn | undefined,
  around: Record<string, unknown> | undefined,
  job: string,
  step: "started" | "completed",
) {
  const ready = tree !== undefined && around !== undefined;
  const read = useQuery({
    queryKey: ["step here", tree, around, job, step],
    enabled: ready,
    gcTime: 60_000,
    placeholderData: (before) => before,
    queryFn: () =>
      core.stepHere({
        tree: tree as TreeFileIn,
        around: around ?? {},
        job,
        step,
        at: new Date().toISOString(),
      }),
  });
  return { answer: read.data as StepAnswer | undefined, unknown: read.isError };
}
