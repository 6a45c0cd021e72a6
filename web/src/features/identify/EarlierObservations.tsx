import { inWords } from "@/shared/dates";
import type { Seen } from "@/shared/records/draft";
import { type Plant, usePlant } from "@/shared/records/reads";
import { Button } from "@/shared/ui";

/** Observations of earlier visits of the same plant, to start from; each keeps the date on which it was made. */
export function EarlierObservations({
  plantId,
  onStart,
}: {
  plantId: string;
  onStart: (observations: Seen[]) => void;
}) {
  const plant = usePlant(plantId);
  const earlier = plant.data ? earlierOf(plant.data) : [];
  if (earlier.length === 0) return null;
  const days = [...new Set(earlier.map((o) => o.on ?? ""))];
  return (
    <Button className="mt-3 w-full text-left" onClick={() => onStart(earlier)}>
      Start from {earlier.length === 1 ? "the observation" : `the ${earlier.length} observations`} of{" "}
      {inWords(days[0] ?? "")}
      {days.length > 1 ? " and before" : ""}
    </Button>
  );
}

/** The observations that are valid, newest first, one for each character, whole as they were recorded. */
export function earlierOf(plant: Pick<Plant, "visits">): Seen[] {
  const found = new Map<string, Seen>();
  for (const visit of plant.visits)
    for (const entry of visit.entries)
      if (entry.kind === "observation" && entry.stands && entry.body && !entry.body.skipped)
        if (!found.has(entry.body.character))
          found.set(entry.body.character, { ...entry.body, id: entry.id, on: visit.local_date });
  return [...found.values()];
}
