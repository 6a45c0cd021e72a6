import { createColumnHelper } from "@tanstack/react-table";
import { Link } from "react-router";
import { conditionNow, nameShown } from "@/shared/records/labels";
import { type Row, useVocabulary } from "@/shared/records/reads";
import type { Units } from "@/shared/site/units";

const column = createColumnHelper<Row>();
/** The columns, figures in the units of the site. */
export const columnsIn = (units: Units) => [
  column.accessor("tag", {
    header: "Tag",
    cell: (c) => (
      <Link to={`/history/${c.row.original.id}`} className="whitespace-nowrap font-bold text-slate underline">
        {c.getValue() || "no tag"}
        {c.row.original.tag_clash && <span className="ml-1 text-rust">twice</span>}
      </Link>
    ),
  }),
  column.accessor("name", {
    header: "Name",
    cell: (c) => (
      <span className="latin whitespace-nowrap text-[1.05rem]">
        {nameShown(c.getValue(), c.row.original.name_rank) || "not named"}
      </span>
    ),
  }),
  column.accessor("dbh_cm", {
    header: `Diameter ${units.label("cm")}`,
    cell: (c) => figureIn(units, c.getValue(), "cm"),
  }),
  column.accessor("height_m", {
    header: `Height ${units.label("m")}`,
    cell: (c) => figureIn(units, c.getValue(), "m"),
  }),
  column.accessor("condition", { header: "Condition", cell: (c) => conditionNow(c.row.original) }),
  column.accessor("risk_reads", {
    id: "risk",
    header: "Risk",
    cell: (c) => (
      <span
        className={`inline-block min-w-36 ${/extreme|high/i.test(c.getValue()) ? "font-bold text-rust" : ""}`}
      >
        {c.getValue()}
      </span>
    ),
  }),
  column.accessor("next_inspection", {
    header: "Next inspection",
    cell: (c) => <span className="whitespace-nowrap">{c.getValue()}</span>,
  }),
  column.accessor("life", { header: "Life", cell: (c) => c.getValue().replaceAll("_", " ") }),
  column.accessor("signs", {
    header: "Signs",
    enableSorting: false,
    cell: (c) => <Signs ids={c.getValue()} />,
  }),
  column.accessor("cause", {
    header: "Diagnosis",
    enableSorting: false,
    cell: (c) => <Cause id={c.getValue()} standing={c.row.original.cause_standing} />,
  }),
  column.accessor("visits", { header: "Visits" }),
  column.accessor("last_seen", {
    header: "Last seen",
    cell: (c) => <span className="whitespace-nowrap">{c.getValue()}</span>,
  }),
];
const figureIn = (units: Units, value: number | null, si: string) =>
  value === null ? "" : units.figure(value, si);
export const NUMERIC = new Set(["dbh_cm", "height_m", "visits"]);

/** What is held to be wrong, and how far that is established. */
function Cause({ id, standing }: { id: string; standing: string }) {
  const vocabulary = useVocabulary();
  if (!id) return null;
  const label = vocabulary.data?.causes.find((c) => c.id === id)?.label ?? id;
  return (
    <span className="inline-block min-w-32">
      {label}, {standing}
    </span>
  );
}

/** The first sign in words; the others by number, so that a row stays a row. All of them stand in History. */
function Signs({ ids }: { ids: string[] }) {
  const vocabulary = useVocabulary();
  const labels = ids.map((id) => vocabulary.data?.signs.find((s) => s.id === id)?.label ?? id);
  return (
    <span className="inline-block min-w-32" title={labels.join(", ")}>
      {labels[0]}
      {labels.length > 1 && `, and ${labels.length - 1} more`}
    </span>
  );
}
