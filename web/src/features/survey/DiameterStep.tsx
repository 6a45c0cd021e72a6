import { readNumber } from "@/shared/numbers";
import { onEnter } from "@/shared/onEnter";
import { heightOnStem } from "@/shared/records/labels";
import { useVocabulary } from "@/shared/records/reads";
import { useUnits } from "@/shared/site/units";
import { useTermLabel } from "@/shared/terms/Term";
import { Button, Choice, Field, FigureField, Keypad, Notice } from "@/shared/ui";
import { CoreRings } from "./CoreRings";
import { PlainQuantities } from "./PlainQuantities";
import { Plausibility } from "./Plausibility";
import { StemFigure, StemReadings } from "./StemFigures";
import { StemForm } from "./StemForm";
import type { Way } from "./stemReadings";
import type { StepProps } from "./stepProps";
import { useStems } from "./useStems";

/** The diameter, by the rule for this form of stem: tape, circumference, callipers or by eye; one stem or several. */
export function DiameterStep(props: StepProps) {
  const { draft, change, site } = props;
  const vocabulary = useVocabulary();
  const term = useTermLabel();
  const units = useUnits();
  const unit = units.label("cm");
  const read = useStems(props);
  const { figure, stems, how, form } = read;
  const wanted = how === "circumference" ? `Circumference (${unit})` : `Diameter (${unit})`;
  return (
    <div className="grid gap-3">
      {vocabulary.data && (
        <StemForm
          vocabulary={vocabulary.data}
          form={form.id}
          breastHeightM={site?.breast_height_m ?? 1.37}
          onForm={read.chooseForm}
        />
      )}
      {form.onlyByEye && (
        <Notice kind="caution">
          Its sap burns the skin for days, on tools and clothes too. Stand off and estimate.
        </Notice>
      )}
      <StemFigure figure={figure} stems={stems} how={how} site={site} />
      {read.taken && figure.value === null && (
        <p className="text-soft">{figure.error ?? "Readings saved; the figure is computed when online."}</p>
      )}
      <Plausibility checked={figure.checked} si="cm" onMeant={stems.length === 1 ? read.meant : undefined} />
      <StemReadings stems={stems} onRemove={read.remove} />
      {form.onStem && <HeightOfTape at={read.at} painted={form.painted} onChange={read.takeAt} />}
      {!form.onlyByEye && (
        <Choice
          label="How it is taken"
          hideLabel
          tight
          value={how}
          onChange={(by) => read.takeBy(by as Way)}
          options={[
            { id: "tape", label: "tape" },
            { id: "circumference", label: term("circumference", "circumference").toLowerCase() },
            { id: "callipers", label: "callipers" },
            { id: "eye", label: "by eye" },
          ]}
        />
      )}
      {read.asking && (
        <>
          <FigureField
            label={read.first === null ? wanted : `Second reading, square to ${read.first} ${unit}`}
            unit={unit}
            inputMode="decimal"
            placeholder="0.0"
            value={read.typed}
            error={read.wrong || undefined}
            onChange={(e) => read.setTyped(e.target.value)}
            onKeyDown={onEnter(read.add)}
            autoFocus={matchMedia("(pointer: fine)").matches}
          />
          <Keypad
            value={read.typed}
            onChange={read.setTyped}
            doneLabel={stems.length ? "Add stem" : "Use this value"}
            onDone={read.add}
            disabled={!read.typed}
            last={{ of: "tenths", onLast: read.addLast }}
          />
        </>
      )}
      {!read.asking && <Button onClick={read.askAnother}>Another stem of this tree</Button>}
      <PlainQuantities step="diameter" draft={draft} change={change} folded />
      <CoreRings draft={draft} change={change} />
    </div>
  );
}

/** Where the tape was, for a form of stem whose height of measurement is found on the stem. */
function HeightOfTape(props: { at: string; painted: number | null; onChange: (text: string) => void }) {
  const { at, painted, onChange } = props;
  const units = useUnits();
  const unit = units.label("m");
  return (
    <Field
      label={`Height of the tape above the ground (${unit})`}
      inputMode="decimal"
      value={at}
      hint={
        painted ? `Measured at ${heightOnStem(painted, units)} before: at the same point again` : undefined
      }
      error={at && readNumber(at) === null ? `${at} is no height in ${unit}.` : undefined}
      onChange={(e) => onChange(e.target.value)}
    />
  );
}
