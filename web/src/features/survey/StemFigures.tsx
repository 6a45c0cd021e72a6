import type { Site } from "@/shared/records/reads";
import { useUnits } from "@/shared/site/units";
import type { Typed, Way } from "./stemReadings";
import type { Figure } from "./useFigure";

/** The diameter that follows, large, and by which rule it follows. */
export function StemFigure(props: { figure: Figure; stems: Typed[]; how: Way; site: Site | undefined }) {
  const { figure, stems, how, site } = props;
  const units = useUnits();
  if (figure.value === null) return null;
  return (
    <p aria-live="polite" className="leading-none">
      <span className="figure text-6xl font-semibold">{units.figure(figure.value, "cm")}</span>{" "}
      <span className="text-lg text-soft">
        {units.label("cm")}
        {stems.length > 1
          ? `, ${stems.length - (figure.checked?.thinner ?? 0)} stems as one`
          : how === "circumference"
            ? ", from the circumference"
            : ""}
        {how === "callipers" ? ", geometric mean of two readings" : ""}
        {figure.checked?.thinner
          ? `, ${figure.checked.thinner} thinner than ${units.shown(site?.smallest_cm ?? 0, "cm")} counted only`
          : ""}
      </span>
    </p>
  );
}

/** What was read, stem by stem; a tap takes one out. */
export function StemReadings({ stems, onRemove }: { stems: Typed[]; onRemove: (i: number) => void }) {
  const unit = useUnits().label("cm");
  if (stems.length === 0) return null;
  return (
    <ul className="flex flex-wrap gap-2" aria-label="Readings">
      {stems.map((s, i) => (
        <li key={i}>
          <button
            type="button"
            className="target rounded-tile border-2 border-rule bg-sheet px-3"
            onClick={() => onRemove(i)}
            aria-label={`Remove ${Array.isArray(s) ? s.join(" and ") : s} ${unit}`}
          >
            {Array.isArray(s) ? s.join(" / ") : s} {unit} ×
          </button>
        </li>
      ))}
    </ul>
  );
}
