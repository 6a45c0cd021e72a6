import { useState } from "react";
import { withMeasurement } from "@/shared/records/draft";
import { type Measurement, measurementOf } from "@/shared/records/entries";
import { useUnits } from "@/shared/site/units";
import { useTyped, useTypedText } from "@/shared/typed";
import { Field } from "@/shared/ui";
import type { StepProps } from "./stepProps";
import { useFigure } from "./useFigure";

/** Length along a leaning stem, from its height and how far its tip stands off; the height stays a figure of its own. */
export function StemLength({ draft, change, site }: Pick<StepProps, "draft" | "change" | "site">) {
  const units = useUnits();
  const unit = units.label("m");
  const entry = measurementOf(draft, "stem_length_m");
  const given = entry?.body.raw.leaning;
  const figure = useFigure(draft, site, entry);
  const [held, keepTyped] = useTypedText("stem length", "");
  const [typed, setTyped] = useState<{ height: string; offset: string }>(
    held
      ? JSON.parse(held)
      : {
          height: given ? units.typed(given.height_m, "m") : "",
          offset: given ? units.typed(given.offset_m, "m") : "",
        },
  );
  const half = !given && Boolean(typed.height || typed.offset);
  useTyped(half, {
    take: () =>
      `Length of a leaning stem: ${typed.height || "no height"} and ${typed.offset || "no offset"}; both are needed, in ${unit}.`,
    drop: () => read({ height: "", offset: "" }),
  });
  const read = (next: typeof typed) => {
    setTyped(next);
    keepTyped(JSON.stringify(next));
    const [height_m, offset_m] = [units.read(next.height, "m"), units.read(next.offset, "m")];
    const body: Measurement | null =
      height_m === null || offset_m === null
        ? null
        : {
            quantity: "stem_length_m",
            raw: { leaning: { height_m, offset_m } },
            unit_entered: unit as NonNullable<Measurement["unit_entered"]>,
            as_entered: `height ${next.height} ${unit}, offset ${next.offset} ${unit}`,
          };
    void change((now) => withMeasurement(now, body, "stem_length_m"));
  };
  return (
    <details>
      <summary className="min-h-[53px] cursor-pointer content-center text-slate underline">
        Length of a leaning stem{entry ? " (recorded)" : ""}
      </summary>
      <div className="grid grid-cols-2 gap-3">
        <Field
          label={`Tip above the ground (${unit})`}
          inputMode="decimal"
          value={typed.height}
          onChange={(e) => read({ ...typed, height: e.target.value })}
        />
        <Field
          label={`Tip off the base by (${unit})`}
          inputMode="decimal"
          value={typed.offset}
          error={figure.error}
          hint={
            figure.value === null
              ? "From the base to below the tip, level"
              : `Length ${units.shown(figure.value, "m")}`
          }
          onChange={(e) => read({ ...typed, offset: e.target.value })}
        />
      </div>
    </details>
  );
}
