import { useState } from "react";
import { isConvention } from "@/shared/records/breastHeights";
import { withMeasurement } from "@/shared/records/draft";
import { measurementOf, type Quantity } from "@/shared/records/entries";
import { useVocabulary } from "@/shared/records/reads";
import { useUnits } from "@/shared/site/units";
import { useTyped, useTypedText } from "@/shared/typed";
import { readingsOf, type Typed, typedOf, type Way, wayOf, wrongWith } from "./stemReadings";
import type { StepProps } from "./stepProps";
import { useFigure } from "./useFigure";
import { useGoOn } from "./useGoOn";

const DIAMETERS: Quantity[] = ["dbh_cm", "drc_cm"];
const UPRIGHT = "upright";

/** What is read of the stems of a tree, as it is typed; every change goes into the draft at once. */
export function useStems({ draft, row, change, next, site, say, focusNext }: StepProps) {
  const forms = useVocabulary().data?.stem_forms;
  const units = useUnits();
  const unit = units.label("cm");
  const formId = draft.stem_form ?? UPRIGHT;
  const form = forms?.find((f) => f.id === formId);
  const entry = measurementOf(draft, ...DIAMETERS);
  const taken = entry?.body;
  const [way, setWay] = useState<Way>(wayOf(taken));
  const [stems, setStems] = useState<Typed[]>(typedOf(taken, units));
  const [firstText, setFirstText] = useTypedText("diameter, first reading", "");
  const first = firstText || null;
  const setFirst = (text: string | null) => setFirstText(text ?? "");
  const [typed, setTyped] = useTypedText("diameter", "");
  // a point found on the stem at an earlier visit is used again; the figure taken there stays unseen until the new one is in
  const painted = row?.dbh_height_m && !isConvention(row.dbh_height_m) ? row.dbh_height_m : null;
  const foundAt = taken?.at_height_m ?? painted;
  const [at, setAt] = useState(foundAt ? units.typed(foundAt, "m") : "");
  const [wrong, setWrong] = useState("");
  const [another, setAnother] = useState(false);
  const onlyByEye = form?.method === "estimated";
  const how: Way = onlyByEye ? "eye" : way;
  const figure = useFigure(draft, site, entry);
  const goOn = useGoOn(figure, next);
  const onStem = (id: string) => {
    const asked = forms?.find((f) => f.id === id);
    return asked?.quantity === "dbh_cm" && (asked.height !== "H" || painted !== null);
  };

  const store = async (values: Typed[], by: Way, atText = at, formNow = formId) => {
    if (values.length === 0) return change((now) => withMeasurement(now, null, ...DIAMETERS));
    const own = onStem(formNow) ? units.read(atText, "m") : null;
    const body = {
      quantity: (forms?.find((f) => f.id === formNow)?.quantity ?? "dbh_cm") as Quantity,
      ...readingsOf(values, by, units),
      stem_form: formNow,
      ...(own ? { at_height_m: own } : {}),
    };
    return change((now) => withMeasurement(now, body, ...DIAMETERS));
  };
  const put = (values: Typed[], by: Way, words?: string) => {
    setStems(values);
    if (words) say(words);
    return store(values, by);
  };
  /** Takes what was typed: all stems now, nothing while a second reading is to come, or null where it is refused. */
  const take = (text: string): { values: Typed[]; written?: Promise<unknown> } | null => {
    const refused = wrongWith(text, how, units);
    setWrong(refused);
    if (refused) return null;
    setTyped("");
    if (how === "callipers" && first === null) {
      setFirst(text);
      return { values: [] };
    }
    const values: Typed[] = [...stems, how === "callipers" && first !== null ? [first, text] : text];
    setFirst(null);
    setAnother(false);
    return { values, written: put(values, how, `${text} ${unit}`) };
  };
  useTyped(typed !== "" || first !== null, {
    take: async () => {
      const alone = how === "callipers" && (first === null || typed === "");
      if (alone)
        return `${first ?? typed} ${unit} is one reading of callipers; a second, square to it, is needed.`;
      const taken = take(typed);
      await taken?.written;
      return taken ? "" : wrongWith(typed, how, units);
    },
    drop: () => {
      setTyped("");
      setFirst(null);
    },
  });
  const add = () => {
    if ((!typed && stems.length) || take(typed)?.values.length) focusNext();
  };
  const addLast = (text: string) => {
    const values = take(text)?.values ?? null;
    if (values === null) setTyped(text);
    const alone = values?.length === 1 && how !== "callipers" && !form?.several;
    if (alone) goOn((units.read(text, "cm") ?? 0) / (how === "circumference" ? Math.PI : 1));
  };
  const meant = (cm: number) => {
    const by = how === "eye" ? "eye" : "tape";
    const text = units.figure(cm, "cm");
    setWay(by);
    void put([text], by, `${text} ${unit}`);
  };
  return {
    form: { id: formId, onlyByEye, onStem: onStem(formId), painted },
    figure,
    how,
    stems,
    first,
    typed,
    wrong,
    at,
    asking: stems.length === 0 || another,
    taken: taken !== undefined,
    setTyped,
    add,
    addLast,
    meant,
    askAnother: () => setAnother(true),
    remove: (i: number) => void put(stems.toSpliced(i, 1), how),
    takeBy: (by: Way) => {
      setWay(by);
      setFirst(null);
      if (by !== "callipers" && !stems.some(Array.isArray)) void store(stems, by);
    },
    takeAt: (text: string) => {
      setAt(text);
      void store(stems, how, text);
    },
    chooseForm: (chosen: string) =>
      void change({ stem_form: chosen }).then(() => store(stems, how, at, chosen)),
  };
}
