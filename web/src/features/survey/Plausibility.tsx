import type { Schemas } from "@/api/client";
import { inWords } from "@/shared/dates";
import { Button, Notice } from "@/shared/ui";

/** The last visit's figure, and a warning in a sentence with both ways out: what was meant, or what was entered. */
export function Plausibility({
  plausibility,
  unit,
  onMeant,
}: {
  plausibility: Schemas["Plausibility"] | undefined;
  unit: string;
  onMeant?: (value: number) => void;
}) {
  if (!plausibility) return null;
  const b = plausibility.before;
  return (
    <div className="grid gap-2">
      {b && (
        <p className="text-soft">
          Before: {b.value.toFixed(1)} {unit} on {inWords(b.on)}
          {b.at_height_m ? `, at ${b.at_height_m.toFixed(2)} m` : ""}
          {b.method === "estimated" ? ", by eye" : ""}.
        </p>
      )}
      {plausibility.warnings.length > 0 && (
        <Notice kind="caution" title={plausibility.warnings.join(" ")}>
          {plausibility.meant.length > 0
            ? "A slip? Use the figure that was meant, or leave yours."
            : "Check it again. If it is right, leave it."}
        </Notice>
      )}
      {onMeant && plausibility.meant.length > 0 && (
        <div className="flex flex-wrap gap-2">
          {plausibility.meant.map((m) => (
            <Button key={m.why} weight="act" onClick={() => onMeant(m.value)}>
              {m.value} {unit}: {m.why}
            </Button>
          ))}
        </div>
      )}
    </div>
  );
}
