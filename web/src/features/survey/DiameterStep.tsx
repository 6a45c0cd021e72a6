import { useState } from "react";
import { readNumber } from "@/shared/numbers";
import { onEnter } from "@/shared/onEnter";
import { isConvention } from "@/shared/records/breastHeights";
import { withMeasurement } from "@/shared/records/draft";
import { measurementOf, type Quantity } from "@/shared/records/entries";
import { heightOnStem } from "@/shared/records/labels";
import { useVocabulary } from "@/shared/records/reads";
import { useUnits } from "@/shared/site/units";
import { useTermLabel } from "@/shared/terms/Term";
import { Button, Choice, Field, FigureField, Keypad, Notice } from "@/shared/ui";
import { CoreRings } from "./CoreRings";
import { PlainQuantities } from "./PlainQuantities";
import { Plausibility } from "./Plausibility";
import { StemForm } from "./StemForm";
import { readingsOf, type Typed, typedOf, type Way, wayOf, wrongWith } from "./stemReadings";
import type { StepProps } from "./stepProps";
import { useFigure } from "./useFigure";
import { useGoOn } from "./useGoOn";

const DIAMETERS: Quantity[] = ["dbh_cm", "drc_cm"];

/** The diameter, by the rule for this form of stem: tape, circumference, callipers or by eye; one stem or several. */
export function DiameterStep({ draft, row, change, next, site, say, focusNext }: StepProps) {
  const vocabulary = useVocabulary();
  const term = useTermLabel();
  const units = useUnits();
  const unit = units.label("cm");
  const formId = draft.stem_form ?? "upright";
  const form = vocabulary.data?.stem_forms.find((f) => f.id === formId);
  const breast = site?.breast_height_m ?? 1.37;
  const onlyByEye = form?.method === "estimated";
  const entry = measurementOf(draft, ...DIAMETERS);
  const taken = entry?.body;
  const [way, setWay] = useState<Way>(wayOf(taken));
  const [stems, setStems] = useState<Typed[]>(typedOf(taken, units));
  const [first, setFirst] = useState<string | null>(null);
  const [typed, setTyped] = useState("");
  // a point found on the stem at an earlier visit is used again; the figure taken there stays unseen until the new one is in
  const painted = row?.dbh_height_m && !isConvention(row.dbh_height_m) ? row.dbh_height_m : null;
  const foundAt = taken?.at_height_m ?? painted;
  const [at, setAt] = useState(foundAt ? units.typed(foundAt, "m") : "");
  const [wrong, setWrong] = useState("");
  const [another, setAnother] = useState(false);
  const how: Way = onlyByEye ? "eye" : way;
  const foundOnStem = form?.quantity === "dbh_cm" && (form.height !== "H" || painted !== null);
  const figure = useFigure(draft, site, entry);
  const goOn = useGoOn(figure, next);

  const store = async (values: Typed[], by: Way, atText = at, formNow = formId) => {
    if (values.length === 0) return change((now) => withMeasurement(now, null, ...DIAMETERS));
    const form = vocabulary.data?.stem_forms.find((f) => f.id === formNow);
    const onStem = form?.quantity === "dbh_cm" && (form.height !== "H" || painted !== null);
    const own = onStem ? units.read(atText, "m") : null;
    const body = {
      quantity: (form?.quantity ?? "dbh_cm") as Quantity,
      ...readingsOf(values, by, units),
      stem_form: formNow,
      ...(own ? { at_height_m: own } : {}),
    };
    return change((now) => withMeasurement(now, body, ...DIAMETERS));
  };
  const take = (text: string) => {
    if (!text && stems.length) return focusNext();
    const refused = wrongWith(text, how, units);
    setWrong(refused);
    if (refused) return;
    setTyped("");
    if (how === "callipers" && first === null) return setFirst(text);
    const values: Typed[] = [...stems, how === "callipers" && first !== null ? [first, text] : text];
    setFirst(null);
    setStems(values);
    setAnother(false);
    say(`${text} ${unit}`);
    void store(values, how);
    return values;
  };
  const add = () => {
    if (take(typed)) focusNext();
  };
  const addLast = (text: string) => {
    const values = take(text);
    if (values?.length === 1 && how !== "callipers" && !form?.several)
      goOn((units.read(text, "cm") ?? 0) / (how === "circumference" ? Math.PI : 1));
    else if (!values) setTyped(text);
  };
  const meant = (cm: number) => {
    const by = how === "eye" ? "eye" : "tape";
    const text = units.figure(cm, "cm");
    setStems([text]);
    setWay(by);
    say(`${text} ${unit}`);
    void store([text], by);
  };
  const remove = (i: number) => {
    const values = stems.filter((_, j) => j !== i);
    setStems(values);
    void store(values, how);
  };
  return (
    <div className="grid gap-3">
      {vocabulary.data && (
        <StemForm
          vocabulary={vocabulary.data}
          form={formId}
          breastHeightM={breast}
          onForm={(chosen) => {
            void change({ stem_form: chosen }).then(() => store(stems, how, at, chosen));
          }}
        />
      )}
      {onlyByEye && (
        <Notice kind="caution">
          Its sap burns the skin for days, on tools and clothes too. Stand off and estimate.
        </Notice>
      )}
      {figure.value !== null && (
        <p aria-live="polite" className="leading-none">
          <span className="figure text-6xl font-semibold">{units.figure(figure.value, "cm")}</span>{" "}
          <span className="text-lg text-soft">
            {unit}
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
      )}
      {taken && figure.value === null && (
        <p className="text-soft">{figure.error ?? "Readings saved; the figure is computed when online."}</p>
      )}
      <Plausibility checked={figure.checked} si="cm" onMeant={stems.length === 1 ? meant : undefined} />
      {stems.length > 0 && (
        <ul className="flex flex-wrap gap-2" aria-label="Readings">
          {stems.map((s, i) => (
            <li key={i}>
              <button
                type="button"
                className="target rounded-tile border-2 border-rule bg-sheet px-3"
                onClick={() => remove(i)}
                aria-label={`Remove ${Array.isArray(s) ? s.join(" and ") : s} ${unit}`}
              >
                {Array.isArray(s) ? s.join(" / ") : s} {unit} ×
              </button>
            </li>
          ))}
        </ul>
      )}
      {foundOnStem && (
        <Field
          label={`Height of the tape above the ground (${units.label("m")})`}
          inputMode="decimal"
          value={at}
          hint={
            painted
              ? `Measured at ${heightOnStem(painted, units)} before: at the same point again`
              : undefined
          }
          error={at && readNumber(at) === null ? `${at} is no height in ${units.label("m")}.` : undefined}
          onChange={(e) => {
            setAt(e.target.value);
            void store(stems, how, e.target.value);
          }}
        />
      )}
      {!onlyByEye && (
        <Choice
          label="How it is taken"
          hideLabel
          tight
          value={way}
          onChange={(v) => {
            setWay(v as Way);
            setFirst(null);
            if (v !== "callipers" && !stems.some(Array.isArray)) void store(stems, v as Way);
          }}
          options={[
            { id: "tape", label: "tape" },
            { id: "circumference", label: term("circumference", "circumference").toLowerCase() },
            { id: "callipers", label: "callipers" },
            { id: "eye", label: "by eye" },
          ]}
        />
      )}
      {(stems.length === 0 || another) && (
        <>
          <FigureField
            label={
              first !== null
                ? `Second reading, square to ${first} ${unit}`
                : how === "circumference"
                  ? `Circumference (${unit})`
                  : `Diameter (${unit})`
            }
            unit={unit}
            inputMode="decimal"
            placeholder="0.0"
            value={typed}
            error={wrong || undefined}
            onChange={(e) => setTyped(e.target.value)}
            onKeyDown={onEnter(add)}
            autoFocus={matchMedia("(pointer: fine)").matches}
          />
          <Keypad
            value={typed}
            onChange={setTyped}
            doneLabel={stems.length ? "Add stem" : "Use this value"}
            onDone={add}
            disabled={!typed}
            last={{ of: "tenths", onLast: addLast }}
          />
        </>
      )}
      {stems.length > 0 && !another && (
        <Button onClick={() => setAnother(true)}>Another stem of this tree</Button>
      )}
      <PlainQuantities step="diameter" draft={draft} change={change} folded />
      <CoreRings draft={draft} change={change} />
    </div>
  );
}
