import type { Schemas } from "@/api/client";
import { inWords } from "@/shared/dates";
import { Term } from "@/shared/terms/Term";
import { Notice } from "@/shared/ui";

/** The newest risk worksheet of a tree: first what has to be done, then what it reads and what is still to be seen. */
export function RiskNow({ risk }: { risk: NonNullable<Schemas["FromSize"]["risk"]> }) {
  const { act } = risk;
  return (
    <section className="mt-4 grid gap-2" aria-label="Risk">
      {act.urgency !== "none" && (
        <Notice kind={act.urgency === "now" ? "refused" : "caution"}>{act.says}</Notice>
      )}
      <p>
        <Term id="risk_rating">Risk</Term>: <strong className="text-lg">{risk.reads}</strong> within{" "}
        {risk.years} {risk.years === 1 ? "year" : "years"}
        {risk.residual_reads !== risk.reads && `; after the work: ${risk.residual_reads}`}. Worksheet of{" "}
        {inWords(risk.on)};{" "}
        {risk.next_inspection
          ? `next inspection by ${inWords(risk.next_inspection)}`
          : "no next inspection set"}
        . <span className="text-soft">A qualified assessor decides.</span>
      </p>
      {risk.proposed.map((what) => (
        <p key={what}>{what}</p>
      ))}
    </section>
  );
}
