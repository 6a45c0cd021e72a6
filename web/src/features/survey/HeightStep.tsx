import { useState } from "react";
import { withMeasurement } from "@/shared/records/draft";
import { type Measurement, measurementOf } from "@/shared/records/entries";
import { useUnits } from "@/shared/site/units";
import { Choice, Notice } from "@/shared/ui";
import { type HeightWay, HOW, READINGS, type Sighted } from "./heightWays";
import { lastHeightWay, rememberHeightWay } from "./lastAnswers";
import { PlainHeight } from "./PlainHeight";
import { Plausibility } from "./Plausibility";
import { SightedHeight } from "./SightedHeight";
import { StemLength } from "./StemLength";
import type { StepProps } from "./stepProps";
import { useFigure } from "./useFigure";
import { useGoOn } from "./useGoOn";

/** Height: two angles, range finder, two stations, stick, pole, read off, or by eye; each with the error of its readings. */
export function HeightStep({ draft, change, next, site, say, focusNext }: StepProps) {
  const units = useUnits();
  const unit = units.label("m");
  const entry = measurementOf(draft, "height_m");
  const taken = entry?.body;
  const [way, setWay] = useState<HeightWay>(wayOf(taken) ?? lastHeightWay());
  const figure = useFigure(draft, site, entry);
  const goOn = useGoOn(figure, next);
  const store = (readings: Pick<Measurement, "raw" | "as_entered">) => {
    const method = way === "eye" ? "estimated" : "instrument";
    const unit_entered = unit as NonNullable<Measurement["unit_entered"]>;
    const body: Measurement = { quantity: "height_m", ...readings, unit_entered, method };
    return change((now) => withMeasurement(now, body, "height_m"));
  };
  const takePlain = (text: string) => {
    say(`${text} ${unit}`);
    return store({ raw: { value: units.read(text, "m") }, as_entered: `${text} ${unit}` });
  };
  const choose = (chosen: string) => {
    setWay(chosen as HeightWay);
    rememberHeightWay(chosen as HeightWay);
  };
  const plain = way === "direct" || way === "eye";
  return (
    <div className="grid gap-4">
      <Choice
        label="How it is taken"
        tight
        value={way}
        onChange={choose}
        options={[
          { id: "angles", label: "two angles" },
          { id: "sine", label: "range finder" },
          { id: "two_stations", label: "two stations" },
          { id: "stick", label: "stick" },
          { id: "pole", label: "pole at the tree" },
          { id: "direct", label: "read off" },
          { id: "eye", label: "by eye" },
        ]}
      />
      {HOW[way] && <p className="text-soft">{HOW[way]}</p>}
      {figure.value !== null && (
        <p aria-live="polite" className="leading-none">
          <span className="figure text-6xl font-semibold">{units.figure(figure.value, "m")}</span>{" "}
          <span className="text-lg text-soft">
            {unit}
            {figure.checked?.error_m
              ? `, ± ${units.shown(figure.checked.error_m, "m")}${plain ? "" : " from the readings"}`
              : ""}
          </span>
        </p>
      )}
      {taken && figure.value === null && (
        <p className="text-soft">{figure.error ?? "Readings saved; the height is computed when online."}</p>
      )}
      {figure.checked?.warning && <Notice kind="caution">{figure.checked.warning}</Notice>}
      <Plausibility
        checked={figure.checked}
        si="m"
        onMeant={plain ? (metres) => void takePlain(units.figure(metres, "m")) : undefined}
      />
      {plain ? (
        <PlainHeight
          key={way}
          taken={taken?.raw.value ?? null}
          onTake={(text) => {
            void takePlain(text);
            focusNext();
          }}
          onLast={(text) => {
            void takePlain(text);
            goOn(units.read(text, "m") ?? 0);
          }}
          onLeft={takePlain}
        />
      ) : (
        <SightedHeight
          key={way}
          way={way}
          taken={taken?.raw[way] ? taken.raw : undefined}
          onTake={(raw, as_entered) => {
            void store({ raw, as_entered });
            focusNext();
          }}
          onLeft={(raw, as_entered) => store({ raw, as_entered })}
        />
      )}
      <StemLength draft={draft} change={change} site={site} />
    </div>
  );
}

function wayOf(taken: Measurement | undefined): HeightWay | undefined {
  if (!taken) return undefined;
  const sighted = (Object.keys(READINGS) as Sighted[]).find((way) => taken.raw[way]);
  return sighted ?? (taken.method === "estimated" ? "eye" : "direct");
}
