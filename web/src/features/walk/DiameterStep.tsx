import { useState } from "react";
import { newId } from "@/shared/ids";
import type { DraftMeasurement } from "@/shared/records/draft";
import { Button, Choice, FigureField, Keypad, Notice } from "@/shared/ui";
import { useReckoned } from "./useReckoned";
import type { StepProps } from "./WalkPage";

type Way = "tape" | "girth" | "eye";
const LARGEST = { tape: 1500, girth: 4712, eye: 1500 };

/** Diameter at breast height: tape, girth or by eye; one shoot or several. The old figure shows only after the new. */
export function DiameterStep({ draft, row, change, combine, breastHeightM }: StepProps) {
  const kept = draft.measurements.find((m) => m.quantity === "dbh_cm");
  const [way, setWay] = useState<Way>(kept?.method === "estimated" ? "eye" : kept?.raw.girths_cm ? "girth" : "tape");
  const [shoots, setShoots] = useState<string[]>(readings(kept));
  const [typed, setTyped] = useState("");
  const [wrong, setWrong] = useState("");
  const [another, setAnother] = useState(false);

  const store = async (values: string[], how: Way) => {
    const others = draft.measurements.filter((m) => m.quantity !== "dbh_cm");
    if (values.length === 0) return change({ measurements: others });
    const numbers = values.map(Number);
    const raw = how === "girth" ? { girths_cm: numbers } : numbers.length > 1 ? { diameters_cm: numbers } : { value: numbers[0] };
    return change({
      measurements: [...others, { id: kept?.id ?? newId(), quantity: "dbh_cm", raw, method: how === "eye" ? "estimated" : "taped" }],
    });
  };
  const add = (): boolean => {
    const number = Number(typed.replace(",", "."));
    if (!typed || !Number.isFinite(number) || number < 0.1 || number > LARGEST[way]) {
      setWrong(`${typed || "nothing"} is no ${way === "girth" ? "girth" : "diameter"} in cm; from 0.1 to ${LARGEST[way]} is allowed.`);
      return false;
    }
    const values = [...shoots, String(number)];
    setShoots(values);
    setTyped("");
    setWrong("");
    setAnother(false);
    void store(values, way);
    return true;
  };
  const remove = (i: number) => {
    const values = shoots.filter((_, j) => j !== i);
    setShoots(values);
    void store(values, way);
  };
  const reckoned = useReckoned(kept, combine);
  const diameter = reckoned.value;
  return (
    <div className="grid gap-3">
      <p className="text-sm text-soft">At {breastHeightM.toFixed(2)} m, tape square to the stem. Several shoots: one figure each.</p>
      {diameter !== null && (
        <p aria-live="polite" className="leading-none">
          <span className="figure text-6xl font-semibold">{diameter.toFixed(1)}</span>{" "}
          <span className="text-lg text-soft">
            cm{shoots.length > 1 ? `, ${shoots.length} shoots as one` : way === "girth" ? ", from the girth" : ""}
          </span>
        </p>
      )}
      {kept && diameter === null && <p className="text-soft">Readings kept; the figure is reckoned when in signal.</p>}
      {diameter !== null && row?.dbh_cm && <Before now={diameter} before={row.dbh_cm} seen={row.last_seen} />}
      {shoots.length > 0 && (
        <ul className="flex flex-wrap gap-2" aria-label="Readings">
          {shoots.map((s, i) => (
            <li key={i}>
              <button
                type="button"
                className="target rounded-tile border-2 border-rule bg-sheet px-3"
                onClick={() => remove(i)}
                aria-label={`Remove ${s} cm`}
              >
                {s} cm ×
              </button>
            </li>
          ))}
        </ul>
      )}
      <Choice
        label="How it is taken"
        hideLabel
        value={way}
        onChange={(v) => {
          setWay(v as Way);
          void store(shoots, v as Way);
        }}
        options={[
          { id: "tape", label: "tape" },
          { id: "girth", label: "girth" },
          { id: "eye", label: "by eye" },
        ]}
      />
      {(shoots.length === 0 || another) && (
        <>
          <FigureField
            label={way === "girth" ? "Girth (cm)" : "Diameter (cm)"}
            unit="cm"
            inputMode="decimal"
            placeholder="0.0"
            value={typed}
            error={wrong || undefined}
            onChange={(e) => setTyped(e.target.value)}
            onKeyDown={(e) => e.key === "Enter" && add()}
          />
          <Keypad value={typed} onChange={setTyped} doneLabel={shoots.length ? "Add shoot" : "Take it"} onDone={add} disabled={!typed} />
        </>
      )}
      {shoots.length > 0 && !another && <Button onClick={() => setAnother(true)}>Another shoot of this stem</Button>}
    </div>
  );
}

function readings(m: DraftMeasurement | undefined): string[] {
  if (!m) return [];
  const raw = m.raw as { value?: number; diameters_cm?: number[]; girths_cm?: number[] };
  return (raw.diameters_cm ?? raw.girths_cm ?? (raw.value === undefined ? [] : [raw.value])).map(String);
}

/** What the last visit says, once the new figure is in. */
function Before({ now, before, seen }: { now: number; before: number; seen: string | null }) {
  const gap = now - before;
  const odd = gap < -0.6 || gap > Math.max(3, before * 0.25);
  const words = `${Math.abs(gap).toFixed(1)} cm ${gap < 0 ? "less" : "more"} than ${before.toFixed(1)} cm${seen ? ` (seen ${seen})` : ""}.`;
  return odd ? (
    <Notice kind="caution" title={words}>
      Typed as read? A slip of the decimal point or a girth for a diameter looks like this.
    </Notice>
  ) : (
    <p className="text-soft">{words}</p>
  );
}
