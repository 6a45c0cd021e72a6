import { useState } from "react";
import { readNumber } from "@/shared/numbers";
import { onEnter } from "@/shared/onEnter";
import { isConvention } from "@/shared/records/breastHeights";
import { withMeasurement } from "@/shared/records/draft";
import {
  entryOf,
  type Measurement,
  measurementOf,
  type Quantity,
  type Readings,
} from "@/shared/records/entries";
import { useVocabulary } from "@/shared/records/reads";
import { useTermLabel } from "@/shared/terms/Term";
import { Button, Choice, Field, FigureField, Keypad, Notice } from "@/shared/ui";
import { PlainQuantities } from "./PlainQuantities";
import { Plausibility } from "./Plausibility";
import { StemForm } from "./StemForm";
import type { StepProps } from "./SurveyPage";
import { useComputed } from "./useComputed";
import { usePlausibility } from "./usePlausibility";

type Way = "tape" | "circumference" | "callipers" | "eye";
const LARGEST = { tape: 1500, circumference: 4712, callipers: 1500, eye: 1500 };
const DIAMETERS: Quantity[] = ["dbh_cm", "drc_cm"];

/** The diameter, by the rule for this form of stem: tape, circumference, callipers or by eye; one stem or several. */
export function DiameterStep({ draft, row, change, site, say, focusNext }: StepProps) {
  const vocabulary = useVocabulary();
  const term = useTermLabel();
  const formId = draft.stem_form ?? "upright";
  const form = vocabulary.data?.stem_forms.find((f) => f.id === formId);
  const breast = site?.breast_height_m ?? 1.37;
  const quantity = (form?.quantity ?? "dbh_cm") as Quantity;
  const onlyByEye = form?.method === "estimated";
  const taken = measurementOf(draft, ...DIAMETERS)?.body;
  const [way, setWay] = useState<Way>(wayOf(taken));
  const [stems, setStems] = useState<Reading[]>(readingsOf(taken));
  const [first, setFirst] = useState<number | null>(null);
  const [typed, setTyped] = useState("");
  // a point found on the stem at an earlier visit is used again; the figure taken there stays unseen until the new one is in
  const painted = row?.dbh_height_m && !isConvention(row.dbh_height_m) ? row.dbh_height_m : null;
  const [at, setAt] = useState((taken?.at_height_m ?? painted)?.toString() ?? "");
  const [wrong, setWrong] = useState("");
  const [another, setAnother] = useState(false);
  const how: Way = onlyByEye ? "eye" : way;
  const foundOnStem =
    form !== undefined && quantity === "dbh_cm" && (form.height !== "H" || painted !== null);
  const height = foundOnStem ? readNumber(at) : breast;
  const computed = useComputed(taken, site?.several_stems, site?.smallest_cm);
  const heightNow = measurementOf(draft, "height_m")?.body.raw.value;
  const plausibility = usePlausibility(draft, quantity, computed.value, {
    at_height_m: height ?? undefined,
    height_m: typeof heightNow === "number" ? heightNow : (row?.height_m ?? null),
    taxon: entryOf(draft, "determination")?.body.taxon ?? row?.taxon,
  });

  const store = async (values: Reading[], by: Way, atText = at, formNow = formId) => {
    if (values.length === 0) return change((now) => withMeasurement(now, null, ...DIAMETERS));
    const form = vocabulary.data?.stem_forms.find((f) => f.id === formNow);
    const own =
      form && form.quantity === "dbh_cm" && (form.height !== "H" || painted !== null)
        ? readNumber(atText)
        : null;
    const body: Measurement = {
      quantity: (form?.quantity ?? "dbh_cm") as Quantity,
      raw: rawOf(values, by),
      method: by === "eye" ? "estimated" : by === "callipers" ? "instrument" : "taped",
      stem_form: formNow,
      ...(own ? { at_height_m: own } : {}),
    };
    return change((now) => withMeasurement(now, body, ...DIAMETERS));
  };
  const add = () => {
    const number = readNumber(typed);
    if (number === null && stems.length) return focusNext();
    if (number === null || number < 0.1 || number > LARGEST[how])
      return setWrong(
        `${typed || "nothing"} is no ${how === "circumference" ? "circumference" : "diameter"} in cm; from 0.1 to ${LARGEST[how]} is allowed.`,
      );
    setTyped("");
    setWrong("");
    if (how === "callipers" && first === null) return setFirst(number);
    const values = [
      ...stems,
      how === "callipers" && first !== null ? ([first, number] as [number, number]) : number,
    ];
    setFirst(null);
    setStems(values);
    setAnother(false);
    say(`${number} cm`);
    void store(values, how);
    focusNext();
  };
  const meant = (value: number) => {
    setStems([value]);
    setWay(how === "eye" ? "eye" : "tape");
    say(`${value} cm`);
    void store([value], how === "eye" ? "eye" : "tape");
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
          onForm={(next) => {
            void change({ stem_form: next }).then(() => store(stems, how, at, next));
          }}
        />
      )}
      {onlyByEye && (
        <Notice kind="caution">
          Its sap burns the skin for days, on tools and clothes too. Stand off and estimate.
        </Notice>
      )}
      {computed.value !== null && (
        <p aria-live="polite" className="leading-none">
          <span className="figure text-6xl font-semibold">{computed.value.toFixed(1)}</span>{" "}
          <span className="text-lg text-soft">
            cm
            {stems.length > 1
              ? `, ${stems.length - (computed.thinner ?? 0)} stems as one`
              : how === "circumference"
                ? ", from the circumference"
                : ""}
            {how === "callipers" ? ", geometric mean of two readings" : ""}
            {computed.thinner
              ? `, ${computed.thinner} thinner than ${site?.smallest_cm} cm counted only`
              : ""}
          </span>
        </p>
      )}
      {taken && computed.value === null && (
        <p className="text-soft">{computed.error ?? "Readings saved; the figure is computed when online."}</p>
      )}
      <Plausibility plausibility={plausibility} unit="cm" onMeant={stems.length === 1 ? meant : undefined} />
      {stems.length > 0 && (
        <ul className="flex flex-wrap gap-2" aria-label="Readings">
          {stems.map((s, i) => (
            <li key={i}>
              <button
                type="button"
                className="target rounded-tile border-2 border-rule bg-sheet px-3"
                onClick={() => remove(i)}
                aria-label={`Remove ${Array.isArray(s) ? s.join(" and ") : s} cm`}
              >
                {Array.isArray(s) ? s.join(" / ") : s} cm ×
              </button>
            </li>
          ))}
        </ul>
      )}
      {foundOnStem && (
        <Field
          label="Height of the tape above the ground (m)"
          inputMode="decimal"
          value={at}
          hint={painted ? `Measured at ${painted.toFixed(2)} m before: at the same point again` : undefined}
          error={at && readNumber(at) === null ? `${at} is no height in m.` : undefined}
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
                ? `Second reading, square to ${first} cm`
                : how === "circumference"
                  ? "Circumference (cm)"
                  : "Diameter (cm)"
            }
            unit="cm"
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
          />
        </>
      )}
      {stems.length > 0 && !another && (
        <Button onClick={() => setAnother(true)}>Another stem of this tree</Button>
      )}
      <PlainQuantities step="diameter" draft={draft} change={change} folded />
      <Core draft={draft} change={change} />
    </div>
  );
}

/** Rings of a core that has been taken anyhow, or of a stump: the hole is a wound, and this sheet asks for none. */
function Core({ draft, change }: Pick<StepProps, "draft" | "change">) {
  const given = measurementOf(draft, "rings_per_cm")?.body.raw.core;
  const [rings, setRings] = useState(given?.rings.toString() ?? "");
  const [core, setCore] = useState(given?.core_cm.toString() ?? "");
  const put = (ringsText: string, coreText: string) => {
    const [n, cm] = [readNumber(ringsText), readNumber(coreText)];
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
          label="Core length"
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

type Reading = number | [number, number];

function wayOf(taken: Measurement | undefined): Way {
  if (taken?.method === "estimated") return "eye";
  return taken?.raw.circumferences_cm ? "circumference" : taken?.raw.callipers_cm ? "callipers" : "tape";
}

function rawOf(values: Reading[], by: Way): Readings {
  const pairs = values.filter((v) => Array.isArray(v));
  const single = values.filter((v) => typeof v === "number");
  if (by === "callipers") return { callipers_cm: pairs };
  if (by === "circumference") return { circumferences_cm: single };
  return single.length > 1 ? { diameters_cm: single } : { value: single[0] ?? null };
}

function readingsOf(taken: Measurement | undefined): Reading[] {
  const raw = taken?.raw ?? {};
  const pairs = raw.callipers_cm?.map(([a, b]): Reading => [a ?? 0, b ?? 0]);
  return raw.diameters_cm ?? raw.circumferences_cm ?? pairs ?? (raw.value == null ? [] : [raw.value]);
}
