import { readNumber } from "@/shared/numbers";
import { withMeasurement } from "@/shared/records/draft";
import { type Measurement, measurementOf } from "@/shared/records/entries";
import { useUnits } from "@/shared/site/units";
import { useTyped, useTypedText } from "@/shared/typed";
import { Field } from "@/shared/ui";
import type { StepProps } from "./stepProps";

/** Rings of a core that has been taken anyhow, or of a stump: the hole is a wound, and this sheet asks for none. */
export function CoreRings({ draft, change }: Pick<StepProps, "draft" | "change">) {
  const given = measurementOf(draft, "rings_per_cm")?.body.raw.core;
  const [rings, setRings] = useTypedText("rings", given?.rings.toString() ?? "");
  const units = useUnits();
  const [core, setCore] = useTypedText("core", given ? units.typed(given.core_cm, "cm") : "");
  useTyped(!given && Boolean(rings || core), {
    take: () =>
      `Rings of a core: ${rings || "no count"} on ${core || "no length"}; at least one ring on 0.2 cm is needed.`,
    drop: () => {
      setRings("");
      setCore("");
    },
  });
  const put = (ringsText: string, coreText: string) => {
    const [n, cm] = [readNumber(ringsText), units.read(coreText, "cm")];
    const body: Measurement | null =
      n === null || cm === null || n < 1 || cm < 0.2
        ? null
        : { quantity: "rings_per_cm", raw: { core: { rings: n, core_cm: cm } }, method: "instrument" };
    void change((now) => withMeasurement(now, body, "rings_per_cm"));
  };
  return (
    <details>
      <summary className="min-h-[53px] cursor-pointer content-center text-sm text-slate underline">
        Rings of a core or a stump
      </summary>
      <div className="grid grid-cols-2 gap-3">
        <Field
          label="Rings counted"
          inputMode="numeric"
          value={rings}
          onChange={(e) => {
            setRings(e.target.value);
            put(e.target.value, core);
          }}
        />
        <Field
          label={`Core length (${units.label("cm")})`}
          inputMode="decimal"
          value={core}
          hint="A core is a wound; none is asked for here."
          onChange={(e) => {
            setCore(e.target.value);
            put(rings, e.target.value);
          }}
        />
      </div>
    </details>
  );
}
