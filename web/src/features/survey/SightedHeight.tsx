import { useState } from "react";
import { onEnter } from "@/shared/onEnter";
import type { Readings } from "@/shared/records/entries";
import { useUnits } from "@/shared/site/units";
import { useTyped, useTypedText } from "@/shared/typed";
import { Button, Choice, Field, Notice } from "@/shared/ui";
import {
  ANGLED,
  type AngleUnit,
  READINGS,
  readingLabel,
  type Sighted,
  sightedReadings,
  typedReadings,
} from "./heightWays";

interface Props {
  way: Sighted;
  taken: Readings | undefined;
  onTake: (raw: Readings, asEntered: string) => void;
  /** the step is left with the readings typed */
  onLeft: (raw: Readings, asEntered: string) => Promise<unknown>;
}

/** The readings of one way to measure a height: distances in the site's units, angles as the instrument shows them. */
export function SightedHeight({ way, taken, onTake, onLeft }: Props) {
  const units = useUnits();
  const given: Record<string, unknown> = { ...taken?.[way] };
  const before = typedReadings(way, given, units);
  const [text, setText] = useTypedText(`height by ${way}`, JSON.stringify(before));
  const typed: Record<string, string> = JSON.parse(text);
  const setTyped = (next: Record<string, string>) => setText(JSON.stringify(next));
  const [angle, setAngle] = useState<AngleUnit>((given["angle_unit"] as AngleUnit | undefined) ?? "degrees");
  const [along, setAlong] = useState(given["slope_distance"] === true);
  const [wrong, setWrong] = useState("");
  const take = () => {
    const read = sightedReadings(way, typed, angle, along, units);
    if (typeof read === "string") return setWrong(read);
    setWrong("");
    onTake(read.raw, read.as_entered);
  };
  const changed = READINGS[way].some(({ key }) => (typed[key] ?? "") !== (before[key] ?? ""));
  useTyped(changed, {
    take: async () => {
      const read = sightedReadings(way, typed, angle, along, units);
      if (typeof read === "string") {
        setWrong(read);
        return read;
      }
      await onLeft(read.raw, read.as_entered);
      return "";
    },
    drop: () => setTyped(before),
  });
  return (
    <>
      <div className="grid grid-cols-2 items-end gap-3 sm:grid-cols-3">
        {READINGS[way].map((reading) => (
          <Field
            key={reading.key}
            label={readingLabel(reading, angle, units)}
            inputMode={reading.si && !reading.may ? "decimal" : "text"}
            value={typed[reading.key] ?? ""}
            onChange={(e) => setTyped({ ...typed, [reading.key]: e.target.value })}
            onKeyDown={onEnter(take)}
          />
        ))}
      </div>
      <div className="flex flex-wrap gap-4">
        {ANGLED.includes(way) && (
          <Choice
            label="Angles are read in"
            value={angle}
            onChange={(v) => setAngle(v as AngleUnit)}
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
      {wrong && <Notice kind="refused">{wrong}</Notice>}
      <Button weight={taken ? "plain" : "act"} onClick={take}>
        {taken ? "Use these readings instead" : "Use this value"}
      </Button>
    </>
  );
}
