import { useState } from "react";
import { readNumber } from "@/shared/numbers";
import { onEnter } from "@/shared/onEnter";
import { withMeasurement } from "@/shared/records/draft";
import { entryOf, measurementOf, type Readings } from "@/shared/records/entries";
import { Button, Choice, Field, Notice } from "@/shared/ui";
import { Plausibility } from "./Plausibility";
import type { StepProps } from "./SurveyPage";
import { useComputed } from "./useComputed";
import { usePlausibility } from "./usePlausibility";

type Way = "angles" | "sine" | "stick" | "pole" | "direct" | "eye";
type Unit = "degrees" | "percent" | "topo";
interface Reading {
  key: string;
  label: string;
  may?: boolean;
}

const ANGLED: Way[] = ["angles", "sine", "pole"];
const READINGS: Record<"angles" | "sine" | "stick" | "pole", Reading[]> = {
  angles: [
    { key: "distance_m", label: "Distance (m)" },
    { key: "top", label: "Top" },
    { key: "base", label: "Base" },
    { key: "toward_m", label: "Top nearer by (m), if it leans", may: true },
  ],
  sine: [
    { key: "top_distance_m", label: "Distance to the top (m)" },
    { key: "top", label: "Top" },
    { key: "base_distance_m", label: "Distance to the base (m)" },
    { key: "base", label: "Base" },
  ],
  stick: [
    { key: "distance_m", label: "Distance (m)" },
    { key: "stick_cm", label: "Stick that covers it (cm)" },
    { key: "arm_cm", label: "Eye to stick (cm)" },
  ],
  pole: [
    { key: "pole_m", label: "Pole at the tree (m)" },
    { key: "top", label: "Top" },
    { key: "pole", label: "Top of the pole" },
    { key: "base", label: "Base" },
  ],
};
const HOW: Record<Way, string> = {
  angles:
    "Stand about as far away as the tree is high. Angles from the eye's level: up is positive, down negative.",
  sine: "Range finder: distance along each line of sight, and its angle. A leaning top and a near stand do not matter.",
  stick: "Hold the stick upright at arm's length and walk back until it just covers the tree.",
  pole: "A pole of known length against the tree gives the scale; no distance is needed.",
  direct: "Read off a telescopic pole or an instrument.",
  eye: "",
};

/** Height: two angles, range finder, stick, pole, read off, or by eye; each with the error of its readings. */
export function HeightStep({ draft, row, change, say, focusNext }: StepProps) {
  const taken = measurementOf(draft, "height_m")?.body;
  const takenWay = (Object.keys(READINGS) as (keyof typeof READINGS)[]).find((w) => taken?.raw[w]);
  const [way, setWay] = useState<Way>(
    takenWay ?? (taken?.method === "instrument" ? "direct" : taken ? "eye" : "angles"),
  );
  const given: Record<string, unknown> = { ...(takenWay ? taken?.raw[takenWay] : {}) };
  const [read, setRead] = useState<Record<string, string>>(
    Object.fromEntries(Object.entries(given).map(([k, v]) => [k, String(v)])),
  );
  const [value, setValue] = useState(taken?.raw.value == null ? "" : String(taken.raw.value));
  const [unit, setUnit] = useState<Unit>((given.angle_unit as Unit) ?? "degrees");
  const [along, setAlong] = useState(given.slope_distance === true);
  const [wrong, setWrong] = useState("");
  const computed = useComputed(taken);
  const dbh = measurementOf(draft, "dbh_cm")?.body.raw.value;
  const plausibility = usePlausibility(draft, "height_m", computed.value, {
    dbh_cm: typeof dbh === "number" ? dbh : (row?.dbh_cm ?? null),
    taxon: entryOf(draft, "determination")?.body.taxon ?? row?.taxon,
  });

  const store = (raw: Readings) => {
    setWrong("");
    const method = way === "eye" ? "estimated" : "instrument";
    void change((now) => withMeasurement(now, { quantity: "height_m", raw, method }, "height_m"));
    focusNext();
  };
  const take = () => {
    if (way === "direct" || way === "eye") {
      const number = readNumber(value);
      if (number === null || number < 0.1 || number > 130)
        return setWrong(`${value || "nothing"} is no height in m; from 0.1 to 130 is allowed.`);
      say(`${number} m`);
      return void store({ value: number });
    }
    const readings: Record<string, unknown> = {};
    for (const { key, label, may } of READINGS[way]) {
      const number = readNumber(read[key] ?? "");
      if (number === null && may && !read[key]) continue;
      if (number === null) return setWrong(`${label}: ${read[key] || "nothing"} is no number.`);
      readings[key] = number;
    }
    if (ANGLED.includes(way) && unit !== "degrees") readings.angle_unit = unit;
    if (way === "angles" && along) readings.slope_distance = true;
    store({ [way]: readings } as Readings); // each of the method's readings is there, or it was refused
  };
  const angleUnit = { degrees: "degrees", percent: "per cent", topo: "per 66 ft" }[unit];
  return (
    <div className="grid gap-4">
      <Choice
        label="How it is taken"
        value={way}
        onChange={(v) => setWay(v as Way)}
        options={[
          { id: "angles", label: "two angles" },
          { id: "sine", label: "range finder" },
          { id: "stick", label: "stick" },
          { id: "pole", label: "pole at the tree" },
          { id: "direct", label: "read off" },
          { id: "eye", label: "by eye" },
        ]}
      />
      {HOW[way] && <p className="text-soft">{HOW[way]}</p>}
      {way === "direct" || way === "eye" ? (
        <Field
          label="Height (m)"
          inputMode="decimal"
          value={value}
          onChange={(e) => setValue(e.target.value)}
          onKeyDown={onEnter(take)}
        />
      ) : (
        <>
          <div className="grid grid-cols-2 items-end gap-3 sm:grid-cols-3">
            {READINGS[way].map(({ key, label }) => (
              <Field
                key={key}
                label={["top", "base", "pole"].includes(key) ? `${label} (${angleUnit})` : label}
                inputMode={["top", "base", "pole", "toward_m"].includes(key) ? "text" : "decimal"}
                value={read[key] ?? ""}
                onChange={(e) => setRead({ ...read, [key]: e.target.value })}
                onKeyDown={onEnter(take)}
              />
            ))}
          </div>
          <div className="flex flex-wrap gap-4">
            {ANGLED.includes(way) && (
              <Choice
                label="Angles are read in"
                value={unit}
                onChange={(v) => setUnit(v as Unit)}
                options={[
                  { id: "degrees", label: "degrees" },
                  { id: "percent", label: "per cent" },
                  { id: "topo", label: "topographic (per 66 ft)" },
                ]}
              />
            )}
            {way === "angles" && (
              <Choice
                label="The distance is"
                value={along ? "slope" : "level"}
                onChange={(v) => setAlong(v === "slope")}
                options={[
                  { id: "level", label: "level" },
                  { id: "slope", label: "along the slope to the base" },
                ]}
              />
            )}
          </div>
        </>
      )}
      {(wrong || computed.error) && <Notice kind="refused">{wrong || computed.error}</Notice>}
      <Button weight={taken ? "plain" : "act"} onClick={take}>
        {taken ? "Use these readings instead" : "Use this value"}
      </Button>
      {computed.value !== null && (
        <p aria-live="polite">
          <span className="figure text-6xl font-semibold">{computed.value.toFixed(1)}</span>{" "}
          <span className="text-xl text-soft">
            m{computed.error_m ? `, ± ${computed.error_m.toFixed(1)} m from the readings` : ""}
          </span>
        </p>
      )}
      {taken && computed.value === null && !computed.error && (
        <p className="text-soft">Readings saved; the height is computed when online.</p>
      )}
      {computed.warning && <Notice kind="caution">{computed.warning}</Notice>}
      <Plausibility
        plausibility={plausibility}
        unit="m"
        onMeant={
          way === "direct" || way === "eye"
            ? (meant) => {
                setValue(String(meant));
                store({ value: meant });
              }
            : undefined
        }
      />
    </div>
  );
}
