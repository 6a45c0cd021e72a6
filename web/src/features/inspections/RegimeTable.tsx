import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, unwrap } from "@/api/client";
import { type Body, RecordForm } from "@/shared/records/RecordForm";
import type { Vocabulary } from "@/shared/records/reads";
import { Button, Dialog, Notice } from "@/shared/ui";
import type { Regime } from "./useCoverage";

interface Props {
  site: { id: string; name: string };
  regime: Regime;
  vocabulary: Vocabulary;
  /** a steward changes it; others read it */
  mayChange: boolean;
}

/** The owner's table: what is asked for in each zone. It is set whole; earlier ones stay for the reports of their days. */
export function RegimeTable({ site, regime, vocabulary, mayChange }: Props) {
  const [open, setOpen] = useState(false);
  const rules = regime.rules ?? [];
  return (
    <section aria-label="The owner's table" className="mb-6">
      <h2 className="text-xl">The owner's table</h2>
      {rules.length === 0 ? (
        <p>None is set: by zone nothing falls due. {mayChange ? "" : "A steward sets it."}</p>
      ) : (
        <div className="overflow-x-auto">
          <table className="w-full min-w-[34rem] border-collapse text-left text-sm">
            <thead>
              <tr className="border-b border-ink">
                <th className="py-1 pr-3">Zone</th>
                <th className="pr-3">Level asked for</th>
                <th className="pr-3">Every … months</th>
                <th className="pr-3">at moderate risk</th>
                <th className="pr-3">at high risk</th>
                <th>Qualification</th>
              </tr>
            </thead>
            <tbody>
              {rules.map((rule) => {
                const moderate = rule.moderate_months ?? rule.months;
                return (
                  <tr key={rule.zone} className="border-b border-rule">
                    <td className="py-1 pr-3">{rule.zone}</td>
                    <td className="pr-3">{rule.level.replaceAll("_", " ")}</td>
                    <td className="pr-3 tabular-nums">{rule.months}</td>
                    <td className="pr-3 tabular-nums">{moderate}</td>
                    <td className="pr-3 tabular-nums">{rule.high_months ?? moderate}</td>
                    <td>{rule.qualification || "none asked for"}</td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
      )}
      {mayChange && (
        <Button weight="quiet" className="mt-2" onClick={() => setOpen(true)}>
          {rules.length ? "Change the table" : "Set the table"}
        </Button>
      )}
      <Dialog open={open} onOpenChange={setOpen} title={`Inspections of ${site.name}`}>
        {open && (
          <RegimeForm site={site.id} regime={regime} vocabulary={vocabulary} onDone={() => setOpen(false)} />
        )}
      </Dialog>
    </section>
  );
}

interface FormProps {
  site: string;
  regime: Regime;
  vocabulary: Vocabulary;
  onDone: () => void;
}

function RegimeForm({ site, regime, vocabulary, onDone }: FormProps) {
  const client = useQueryClient();
  const [draft, setDraft] = useState<Body>({ ...regime });
  const [wrong, setWrong] = useState("");
  const save = async () => {
    try {
      unwrap(
        await api.PUT("/api/sites/{site_id}/regime/", {
          params: { path: { site_id: site } },
          body: draft as Regime,
        }),
      );
      for (const key of ["regime", "coverage", "day"]) await client.invalidateQueries({ queryKey: [key] });
      onDone();
    } catch (error) {
      setWrong(error instanceof Error ? error.message : "The table was not saved.");
    }
  };
  return (
    <div className="grid gap-4">
      <p className="text-sm text-soft">
        The table is the owner's; local rules take precedence. Reports of earlier days keep the table of their
        day.
      </p>
      <RecordForm
        fields={vocabulary.records.office["regime"] ?? []}
        value={draft}
        onChange={setDraft}
        vocabulary={vocabulary}
      />
      {wrong && <Notice kind="refused">{wrong}</Notice>}
      <Button weight="act" onClick={() => void save()}>
        Save the table
      </Button>
    </div>
  );
}
