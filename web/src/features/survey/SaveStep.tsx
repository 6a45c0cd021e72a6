import { inWords } from "@/shared/dates";
import { saysSomething } from "@/shared/records/draft";
import { useVocabulary } from "@/shared/records/reads";
import { Notice } from "@/shared/ui";
import type { StepProps } from "./SurveyPage";

/** Everything once more before it is kept. */
export function SaveStep({ draft }: StepProps) {
  const vocabulary = useVocabulary();
  const label = (id: string) => vocabulary.data?.signs.find((s) => s.id === id)?.label ?? id;
  const size = (quantity: string) => {
    const raw = draft.measurements.find((m) => m.quantity === quantity)?.raw;
    if (!raw) return "";
    return Object.entries(raw)
      .map(([key, value]) =>
        key === "value"
          ? String(value)
          : `${key.replace("_cm", "").replaceAll("_", " ")} ${Array.isArray(value) ? value.join(", ") : Object.values(value as object).join(" / ")}`,
      )
      .join("");
  };
  const rows: [string, string][] = [
    ["When", inWords(draft.local_date)],
    ["Where", `${draft.setting.replaceAll("_", " ")}, ${draft.origin}, ${draft.stage}`],
    ["Tag", draft.tag || "as before"],
    ["Looks", String(draft.looks.length)],
    ["Name", draft.name?.entered ?? "as before"],
    ["Diameter (cm)", size("dbh_cm") || size("drc_cm") || "not taken"],
    ["Height (m)", size("height_m") || "not taken"],
    [
      "Crown",
      ["crown_spread_m", "crown_base_m", "transparency_pct", "dieback_pct"]
        .map(size)
        .filter(Boolean)
        .join("; ") || "not taken",
    ],
    ["Condition", condition(draft) || "not judged"],
    [
      "Defects",
      (draft.defects ?? []).map((d) => `${d.defect.replaceAll("_", " ")}, ${d.part}`).join("; ") ||
        "none recorded",
    ],
    [
      "Risk worksheet",
      draft.risk ? `${draft.risk.rows.length} ${draft.risk.rows.length === 1 ? "row" : "rows"}` : "none",
    ],
    [
      "Signs",
      draft.signs.map((s) => (s.present ? label(s.sign) : `${label(s.sign)} (not there)`)).join(", ") ||
        "none recorded",
    ],
    ["Note", draft.note || "none"],
    ["Photographs", String(draft.photos.length)],
  ];
  return (
    <>
      {!saysSomething(draft) && (
        <Notice kind="caution" title="Nothing is recorded yet.">
          Go back to any step, or write in a note what was looked at and found in order.
        </Notice>
      )}
      <dl className="border-t border-rule">
        {rows.map(([what, said]) => (
          <div key={what} className="grid grid-cols-[8rem_1fr] gap-2 border-b border-rule py-2">
            <dt className="text-soft">{what}</dt>
            <dd className="break-words">{said}</dd>
          </div>
        ))}
      </dl>
    </>
  );
}

function condition(draft: StepProps["draft"]): string {
  const graded = Object.keys(draft.condition_parts ?? {}).length;
  return graded
    ? `${graded} ${graded === 1 ? "part" : "parts"} graded`
    : draft.condition.replaceAll("_", " ");
}
