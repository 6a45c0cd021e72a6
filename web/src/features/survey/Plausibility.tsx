import type { Schemas } from "@/api/client";
import { inWords } from "@/shared/dates";
import { Button, Notice } from "@/shared/ui";

/** The last visit's figure, and a doubt in a sentence with both ways out: what was meant, or as it stands. */
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
            ? "A slip? Take what was meant, or leave it as it stands."
            : "Look again; if it is so, leave it as it stands."}
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
