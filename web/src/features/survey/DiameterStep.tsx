import { useState } from "react";
import { newId } from "@/shared/ids";
import { readNumber } from "@/shared/numbers";
import { onEnter } from "@/shared/onEnter";
import { isConvention } from "@/shared/records/breastHeights";
import type { DraftMeasurement, Quantity } from "@/shared/records/draft";
import { useVocabulary } from "@/shared/records/reads";
import { Button, Choice, Field, FigureField, Keypad, Notice } from "@/shared/ui";
import { Plausibility } from "./Plausibility";
import { StemForm } from "./StemForm";
import type { StepProps } from "./SurveyPage";
import { useComputed } from "./useComputed";
import { usePlausibility } from "./usePlausibility";

type Way = "tape" | "girth" | "callipers" | "eye";
const LARGEST = { tape: 1500, girth: 4712, callipers: 1500, eye: 1500 };
const DIAMETERS: Quantity[] = ["dbh_cm", "drc_cm"];

/** The diameter, by the rule for this form of stem: tape, girth, callipers or by eye; one shoot or several. */
export function DiameterStep({ draft, row, change, site, say, focusNext }: StepProps) {
  const vocabulary = useVocabulary();
  const formId = draft.stem_form ?? "upright";
  const form = vocabulary.data?.stem_forms.find((f) => f.id === formId);
  const breast = site?.breast_height_m ?? 1.37;
  const quantity = (form?.quantity ?? "dbh_cm") as Quantity;
  const onlyByEye = form?.method === "estimated";
  const kept = draft.measurements.find((m) => DIAMETERS.includes(m.quantity));
  const [way, setWay] = useState<Way>(wayOf(kept));
  const [shoots, setShoots] = useState<(number | [number, number])[]>(readings(kept));
  const [first, setFirst] = useState<number | null>(null);
  const [typed, setTyped] = useState("");
  // a point found on the stem at an earlier visit is used again; the figure taken there stays unseen until the new one is in
  const painted = row?.dbh_height_m && !isConvention(row.dbh_height_m) ? row.dbh_height_m : null;
  const [at, setAt] = useState((kept?.at_height_m ?? painted)?.toString() ?? "");
  const [wrong, setWrong] = useState("");
  const [another, setAnother] = useState(false);
  const how: Way = onlyByEye ? "eye" : way;
  const foundOnStem =
    form !== undefined && quantity === "dbh_cm" && (form.height !== "H" || painted !== null);
  const height = foundOnStem ? readNumber(at) : breast;
  const computed = useComputed(kept, site?.several_shoots, site?.smallest_cm);
  const heightNow = draft.measurements.find((m) => m.quantity === "height_m")?.raw.value;
  const plausibility = usePlausibility(draft, quantity, computed.value, {
    at_height_m: height ?? undefined,
    height_m: typeof heightNow === "number" ? heightNow : (row?.height_m ?? null),
    taxon: draft.name?.taxon ?? row?.taxon,
  });

  const store = async (values: (number | [number, number])[], by: Way, atText = at, formNow = formId) => {
    const others = draft.measurements.filter((m) => !DIAMETERS.includes(m.quantity));
    if (values.length === 0) return change({ measurements: others });
    const now = vocabulary.data?.stem_forms.find((f) => f.id === formNow);
    const own =
      now && now.quantity === "dbh_cm" && (now.height !== "H" || painted !== null)
        ? readNumber(atText)
        : null;
    return change({
      measurements: [
        ...others,
        {
          id: kept?.id ?? newId(),
          quantity: (now?.quantity ?? "dbh_cm") as Quantity,
          raw: rawOf(values, by),
          method: by === "eye" ? "estimated" : by === "callipers" ? "instrument" : "taped",
          stem_form: formNow,
          ...(own ? { at_height_m: own } : {}),
        },
      ],
    });
  };
  const add = () => {
    const number = readNumber(typed);
    if (number === null && shoots.length) return focusNext();
    if (number === null || number < 0.1 || number > LARGEST[how])
      return setWrong(
        `${typed || "nothing"} is no ${how === "girth" ? "circumference" : "diameter"} in cm; from 0.1 to ${LARGEST[how]} is allowed.`,
      );
    setTyped("");
    setWrong("");
    if (how === "callipers" && first === null) return setFirst(number);
    const values = [
      ...shoots,
      how === "callipers" && first !== null ? ([first, number] as [number, number]) : number,
    ];
    setFirst(null);
    setShoots(values);
    setAnother(false);
    say(`${number} cm`);
    void store(values, how);
    focusNext();
  };
  const meant = (value: number) => {
    setShoots([value]);
    setWay(how === "eye" ? "eye" : "tape");
    say(`${value} cm`);
    void store([value], how === "eye" ? "eye" : "tape");
  };
  const remove = (i: number) => {
    const values = shoots.filter((_, j) => j !== i);
    setShoots(values);
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
            void change({ stem_form: next }).then(() => store(shoots, how, at, next));
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
            {shoots.length > 1
              ? `, ${shoots.length - (computed.thinner ?? 0)} stems as one`
              : how === "girth"
                ? ", from the circumference"
                : ""}
            {how === "callipers" ? ", geometric mean of two readings" : ""}
            {computed.thinner
              ? `, ${computed.thinner} thinner than ${site?.smallest_cm} cm counted only`
              : ""}
          </span>
        </p>
      )}
      {kept && computed.value === null && (
        <p className="text-soft">{computed.error ?? "Readings kept; the figure is computed when online."}</p>
      )}
      <Plausibility plausibility={plausibility} unit="cm" onMeant={shoots.length === 1 ? meant : undefined} />
      {shoots.length > 0 && (
        <ul className="flex flex-wrap gap-2" aria-label="Readings">
          {shoots.map((s, i) => (
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
            void store(shoots, how, e.target.value);
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
            if (v !== "callipers" && !shoots.some(Array.isArray)) void store(shoots, v as Way);
          }}
          options={[
            { id: "tape", label: "tape" },
            { id: "girth", label: "circumference" },
            { id: "callipers", label: "callipers" },
            { id: "eye", label: "by eye" },
          ]}
        />
      )}
      {(shoots.length === 0 || another) && (
        <>
          <FigureField
            label={
              first !== null
                ? `Second reading, square to ${first} cm`
                : how === "girth"
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
            doneLabel={shoots.length ? "Add stem" : "Use this value"}
            onDone={add}
            disabled={!typed}
          />
        </>
      )}
      {shoots.length > 0 && !another && (
        <Button onClick={() => setAnother(true)}>Another stem of this tree</Button>
      )}
      <Buttress draft={draft} change={change} />
      <Core draft={draft} change={change} />
    </div>
  );
}

/** The width just above the root buttress: a figure of its own, never taken from breast height. */
function Buttress({ draft, change }: Pick<StepProps, "draft" | "change">) {
  const kept = draft.measurements.find((m) => m.quantity === "buttress_cm");
  const [typed, setTyped] = useState(kept ? String(kept.raw.value) : "");
  const number = readNumber(typed);
  const bad = typed !== "" && (number === null || number < 0.1 || number > 1500);
  return (
    <details>
      <summary className="min-h-[53px] cursor-pointer content-center text-sm text-slate underline">
        Diameter above the root buttress, for the structural root zone
      </summary>
      <Field
        label="Above the buttress (cm)"
        inputMode="decimal"
        value={typed}
        error={bad ? `${typed} is no diameter in cm; from 0.1 to 1500 is allowed.` : undefined}
        onChange={(e) => {
          setTyped(e.target.value);
          const value = readNumber(e.target.value);
          void change((now) => {
            const others = now.measurements.filter((m) => m.quantity !== "buttress_cm");
            if (value === null || value < 0.1 || value > 1500) return { measurements: others };
            return {
              measurements: [
                ...others,
                { id: kept?.id ?? newId(), quantity: "buttress_cm", raw: { value }, method: "taped" },
              ],
            };
          });
        }}
      />
    </details>
  );
}

/** Rings of a core that has been taken anyhow, or of a stump: the hole is a wound, and this sheet asks for none. */
function Core({ draft, change }: Pick<StepProps, "draft" | "change">) {
  const kept = draft.measurements.find((m) => m.quantity === "rings_per_cm");
  const given = (kept?.raw.core ?? {}) as { rings?: number; core_cm?: number };
  const [rings, setRings] = useState(given.rings?.toString() ?? "");
  const [core, setCore] = useState(given.core_cm?.toString() ?? "");
  const put = (ringsText: string, coreText: string) => {
    const [n, cm] = [readNumber(ringsText), readNumber(coreText)];
    void change((now) => {
      const others = now.measurements.filter((m) => m.quantity !== "rings_per_cm");
      if (n === null || cm === null || n < 1 || cm < 0.2) return { measurements: others };
      const id = kept?.id ?? newId();
      return {
        measurements: [
          ...others,
          { id, quantity: "rings_per_cm", raw: { core: { rings: n, core_cm: cm } }, method: "instrument" },
        ],
      };
    });
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

function wayOf(kept: DraftMeasurement | undefined): Way {
  if (kept?.method === "estimated") return "eye";
  return kept?.raw.girths_cm ? "girth" : kept?.raw.callipers_cm ? "callipers" : "tape";
}

function rawOf(values: (number | [number, number])[], by: Way): Record<string, unknown> {
  if (by === "callipers") return { callipers_cm: values };
  if (by === "girth") return { girths_cm: values };
  return values.length > 1 ? { diameters_cm: values } : { value: values[0] };
}

function readings(m: DraftMeasurement | undefined): (number | [number, number])[] {
  const raw = (m?.raw ?? {}) as {
    value?: number;
    diameters_cm?: number[];
    girths_cm?: number[];
    callipers_cm?: [number, number][];
  };
  return (
    raw.diameters_cm ?? raw.girths_cm ?? raw.callipers_cm ?? (raw.value === undefined ? [] : [raw.value])
  );
}
