import { inWords } from "@/shared/dates";
import type { DraftLook } from "@/shared/records/draft";
import { type Plant, usePlant } from "@/shared/records/reads";
import { Button } from "@/shared/ui";

/** Looks of earlier visits of the same stem, to start from; each keeps the date on which it was seen. */
export function EarlierLooks({
  plantId,
  onStart,
}: {
  plantId: string;
  onStart: (looks: DraftLook[]) => void;
}) {
  const plant = usePlant(plantId);
  const looks = plant.data ? looksOf(plant.data) : [];
  if (looks.length === 0) return null;
  const days = [...new Set(looks.map((l) => l.on ?? ""))];
  return (
    <Button className="mt-3 w-full text-left" onClick={() => onStart(looks)}>
      Start from {looks.length === 1 ? "the look" : `the ${looks.length} looks`} of {inWords(days[0] ?? "")}
      {days.length > 1 ? " and before" : ""}
    </Button>
  );
}

/** The standing looks, newest first, one for each character. */
function looksOf(plant: Plant): DraftLook[] {
  const found = new Map<string, DraftLook>();
  for (const visit of plant.visits)
    for (const entry of visit.entries)
      if (entry.kind === "look" && entry.stands && !entry.retracts) {
        const b = entry.body as Partial<DraftLook>;
        if (!b.character || b.skipped || found.has(b.character)) continue;
        const { states, values, none } = b;
        found.set(b.character, {
          id: entry.id,
          character: b.character,
          ...(none ? { none } : values?.length ? { values } : { states }),
          certainty: b.certainty ?? "likely",
          seen: b.seen ?? "plant",
          on: visit.local_date,
        });
      }
  return [...found.values()];
}
