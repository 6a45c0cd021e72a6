import { useState } from "react";
import { newId } from "@/shared/ids";
import { Button, Choice, Field, Notice } from "@/shared/ui";
import { useReckoned } from "./useReckoned";
import type { StepProps } from "./WalkPage";

type Way = "direct" | "angles" | "eye";

/** Height: read off, by eye, or two angles and a distance. */
export function HeightStep({ draft, row, change }: StepProps) {
  const kept = draft.measurements.find((m) => m.quantity === "height_m");
  const given = (kept?.raw ?? {}) as {
    value?: number;
    angles?: { distance_m: number; top_deg: number; base_deg: number; slope_distance?: boolean };
  };
  const [way, setWay] = useState<Way>(given.angles ? "angles" : kept?.method === "instrument" ? "direct" : kept ? "eye" : "angles");
  const [value, setValue] = useState(given.value?.toString() ?? "");
  const [angles, setAngles] = useState({
    distance: given.angles?.distance_m.toString() ?? "",
    top: given.angles?.top_deg.toString() ?? "",
    base: given.angles?.base_deg.toString() ?? "",
  });
  const [along, setAlong] = useState(given.angles?.slope_distance ?? false);
  const [wrong, setWrong] = useState("");
  const reckoned = useReckoned(kept);

  const store = (raw: Record<string, unknown>) => {
    setWrong("");
    const others = draft.measurements.filter((m) => m.quantity !== "height_m");
    return change({
      measurements: [...others, { id: kept?.id ?? newId(), quantity: "height_m", raw, method: way === "eye" ? "estimated" : "instrument" }],
    });
  };
  const take = () => {
    if (way !== "angles") {
      const number = toNumber(value);
      if (number === null || number < 0.1 || number > 130)
        return setWrong(`${value || "nothing"} is no height in m; from 0.1 to 130 is allowed.`);
      return void store({ value: number });
    }
    const [distance, top, base] = [toNumber(angles.distance), toNumber(angles.top), toNumber(angles.base)];
    if (distance === null || top === null || base === null) return setWrong("Give the distance and both angles as numbers.");
    void store({ angles: { distance_m: distance, top_deg: top, base_deg: base, ...(along ? { slope_distance: true } : {}) } });
  };
  return (
    <div className="grid gap-4">
      <Choice
        label="How it is taken"
        value={way}
        onChange={(v) => setWay(v as Way)}
        options={[
          { id: "angles", label: "two angles" },
          { id: "direct", label: "read off" },
          { id: "eye", label: "by eye" },
        ]}
      />
      {way === "angles" ? (
        <>
          <p className="text-soft">
            Stand off about as far as the stem is high. Angles from the eye's level: up is positive, down negative.
          </p>
          <div className="grid grid-cols-3 gap-3">
            <Field
              label="Distance (m)"
              inputMode="decimal"
              value={angles.distance}
              onChange={(e) => setAngles({ ...angles, distance: e.target.value })}
            />
            <Field
              label="Top (degrees)"
              inputMode="text"
              value={angles.top}
              onChange={(e) => setAngles({ ...angles, top: e.target.value })}
            />
            <Field
              label="Base (degrees)"
              inputMode="text"
              value={angles.base}
              onChange={(e) => setAngles({ ...angles, base: e.target.value })}
            />
          </div>
          <Choice
            label="The distance is"
            value={along ? "slope" : "level"}
            onChange={(v) => setAlong(v === "slope")}
            options={[
              { id: "level", label: "level" },
              { id: "slope", label: "along the slope to the base" },
            ]}
          />
        </>
      ) : (
        <Field
          label="Height (m)"
          inputMode="decimal"
          value={value}
          onChange={(e) => setValue(e.target.value)}
          onKeyDown={(e) => e.key === "Enter" && take()}
        />
      )}
      {(wrong || reckoned.error) && <Notice kind="refused">{wrong || reckoned.error}</Notice>}
      <Button weight={kept ? "plain" : "act"} onClick={take}>
        {kept ? "Take these readings instead" : "Take it"}
      </Button>
      {reckoned.value !== null && (
        <p aria-live="polite">
          <span className="figure text-6xl font-semibold">{reckoned.value.toFixed(1)}</span>{" "}
          <span className="text-xl text-soft">m{reckoned.error_m ? `, ± ${reckoned.error_m.toFixed(1)} m from half a degree` : ""}</span>
        </p>
      )}
      {kept && reckoned.value === null && !reckoned.error && (
        <p className="text-soft">Readings kept; the height is reckoned when in signal.</p>
      )}
      {reckoned.warning && <Notice kind="caution">{reckoned.warning}</Notice>}
      {reckoned.value !== null && row?.height_m && <p className="text-soft">Before: {row.height_m.toFixed(1)} m.</p>}
    </div>
  );
}

function toNumber(text: string): number | null {
  const number = Number(text.trim().replace(",", ".").replace("−", "-"));
  return text.trim() !== "" && Number.isFinite(number) ? number : null;
}
