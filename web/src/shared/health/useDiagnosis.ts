import { useQuery } from "@tanstack/react-query";
import { core } from "@/core";
import type { HealthAnswer, HealthCase } from "./healthCase";

/** The answer to a case; the one before stays in view while the next is computed. */
export function useDiagnosis(given: HealthCase | undefined) {
  return useQuery({
    queryKey: ["diagnosis", given],
    enabled: given !== undefined,
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () => (await core.diagnose(given as HealthCase)) as HealthAnswer,
  });
}

/** The signs to look for on the plant of a case, beside what was looked at. */
export function useSignsToLookFor(given: HealthCase | undefined) {
  return useQuery({
    queryKey: ["signs to look for", given],
    enabled: given !== undefined,
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => core.signsToLookFor(given as HealthCase),
  });
}
