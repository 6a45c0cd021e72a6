import type { ComponentType } from "react";
import type { Draft } from "@/shared/records/draft";
import {
  entriesOf,
  entryOf,
  isInFile,
  type Kind,
  measurementOf,
  type Quantity,
} from "@/shared/records/entries";
import { ConditionStep } from "./ConditionStep";
import { CrownStep } from "./CrownStep";
import { DiameterStep } from "./DiameterStep";
import { FileStep } from "./FileStep";
import { HeightStep } from "./HeightStep";
import { NameStep } from "./NameStep";
import { NotesStep } from "./NotesStep";
import { SaveStep } from "./SaveStep";
import { SignsStep } from "./SignsStep";
import type { StepProps } from "./stepProps";
import { WhereStep } from "./WhereStep";

export interface Step {
  id: string;
  label: string;
  View: ComponentType<StepProps>;
  done: (draft: Draft) => boolean;
}

const measured =
  (...quantities: Quantity[]) =>
  (draft: Draft) =>
    measurementOf(draft, ...quantities) !== undefined;
const has =
  (...kinds: Kind[]) =>
  (draft: Draft) =>
    kinds.some((kind) => entriesOf(draft, kind).length > 0);
const graded = (draft: Draft) => {
  const body = entryOf(draft, "condition")?.body;
  return Boolean(body?.word) || Object.keys(body?.parts ?? {}).length > 0;
};

const STEPS: Step[] = [
  {
    id: "where",
    label: "Where and when",
    View: WhereStep,
    done: (d) => Boolean(d.confirmed) || has("tag")(d),
  },
  { id: "name", label: "Name", View: NameStep, done: has("determination") },
  { id: "diameter", label: "Diameter", View: DiameterStep, done: measured("dbh_cm", "drc_cm") },
  { id: "height", label: "Height", View: HeightStep, done: measured("height_m") },
  {
    id: "crown",
    label: "Crown",
    View: CrownStep,
    done: measured("crown_spread_m", "crown_base_m", "transparency_pct", "dieback_pct"),
  },
  { id: "condition", label: "Condition", View: ConditionStep, done: graded },
  { id: "signs", label: "Signs", View: SignsStep, done: has("sign") },
  { id: "file", label: "The tree's file", View: FileStep, done: (d) => d.entries.some(isInFile) },
  { id: "notes", label: "Note and photograph", View: NotesStep, done: has("note", "photo") },
];
/** An inspection is asked for under condition, where base and crown are. */
const inFileStep = (section: string) => section !== "inspection";
const KEEP: Step = { id: "keep", label: "Save", View: SaveStep, done: () => false };
const DIAMETER_ONLY = ["where", "diameter"];

/**
 * The steps of a sheet in the order of the site, the tree's file only where the site keeps one; in a round that
 * re-measures only, three of them.
 */
export function stepsOf(order: string[], mode: "whole" | "diameter", sections: string[]): Step[] {
  const every = order.length ? order : STEPS.map((s) => s.id);
  const wanted =
    mode === "diameter" ? DIAMETER_ONLY : every.filter((id) => id !== "file" || sections.some(inFileStep));
  return [...wanted.flatMap((id) => STEPS.find((s) => s.id === id) ?? []), KEEP];
}

export const STEP_WORDS = STEPS.map(({ id, label }) => ({ id, label }));
