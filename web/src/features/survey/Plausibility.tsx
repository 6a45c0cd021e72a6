import type { Schemas } from "@/api/client";
import { inWords } from "@/shared/dates";
import { heightOnStem } from "@/shared/records/labels";
import { useUnits } from "@/shared/site/units";
import { Button, Notice } from "@/shared/ui";

/** The last visit's figure, and a warning in a sentence with both ways out: what was meant, or what was entered. */
export function Plausibility({
  checked,
  si,
  onMeant,
}: {
  checked: Schemas["CheckedFigure"] | undefined;
  si: string;
  onMeant?: ((value: number) => void) | undefined;
}) {
  const units = useUnits();
  if (!checked) return null;
  const b = checked.before;
  return (
    <div className="grid gap-2">
      {b && (
        <p className="text-soft">
          Before: {units.shown(b.value, si)} on {inWords(b.on)}
          {b.at_height_m ? `, at ${heightOnStem(b.at_height_m, units)}` : ""}
          {b.method === "estimated" ? ", by eye" : ""}.
        </p>
      )}
      {checked.warnings.length > 0 && (
        <Notice kind="caution" title={checked.warnings.join(" ")}>
          {checked.meant.length > 0
            ? "A slip? Use the figure that was meant, or leave yours."
            : "Check it again. If it is right, leave it."}
        </Notice>
      )}
      {onMeant && checked.meant.length > 0 && (
        <div className="flex flex-wrap gap-2">
          {checked.meant.map((m) => (
            <Button key={m.why} weight="act" onClick={() => onMeant(m.value)}>
              {units.shown(m.value, si)}: {m.why}
            </Button>
          ))}
        </div>
      )}
    </div>
  );
}
