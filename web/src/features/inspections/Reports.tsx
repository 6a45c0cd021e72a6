import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, unwrap } from "@/api/client";
import { Button, Field, Notice, PageState } from "@/shared/ui";
import { useReports } from "./useCoverage";

interface Props {
  site: { id: string; name: string };
  block: string;
  on: string;
}

/** Makes a report of what is shown: numbered, and never changed. */
export function MakeReport({ site, block, on }: Props) {
  const client = useQueryClient();
  const [note, setNote] = useState("");
  const [wrong, setWrong] = useState("");
  const [busy, setBusy] = useState(false);
  const make = async () => {
    setBusy(true);
    setWrong("");
    try {
      unwrap(
        await api.POST("/api/sites/{site_id}/reports/", {
          params: { path: { site_id: site.id } },
          body: { on, ...(block ? { blocks: [block] } : {}), ...(note.trim() ? { note: note.trim() } : {}) },
        }),
      );
      setNote("");
      await client.invalidateQueries({ queryKey: ["reports"] });
    } catch (error) {
      setWrong(error instanceof Error ? error.message : "The report was not made.");
    } finally {
      setBusy(false);
    }
  };
  return (
    <section aria-label="Make a report" className="mb-6 grid max-w-xl gap-3">
      <h2 className="text-xl">Make a report</h2>
      <p className="text-sm text-soft">
        As of {on}, by what was known at the end of that day. It gets a number and is never changed; printed
        again it is the same.
      </p>
      <Field
        label="Note for the reader"
        value={note}
        maxLength={1000}
        onChange={(e) => setNote(e.target.value)}
      />
      {wrong && <Notice kind="refused">{wrong}</Notice>}
      <Button weight="act" disabled={busy} onClick={() => void make()}>
        Make the report
      </Button>
    </section>
  );
}

/** The reports of a site, newest first. */
export function ReportsMade({ site }: { site: string }) {
  const reports = useReports(site);
  return (
    <section aria-label="Reports">
      <h2 className="text-xl">Reports</h2>
      {!reports.data ? (
        <PageState error={reports.error} what="the reports" />
      ) : reports.data.length === 0 ? (
        <p>None yet.</p>
      ) : (
        <ul className="border-t border-rule">
          {reports.data.map((r) => (
            <li key={r.id} className="flex flex-wrap items-center gap-x-6 border-b border-rule">
              <Link
                to={`/inspections/reports/${r.id}`}
                className="target inline-flex items-center gap-2 text-slate underline"
              >
                <span className="figure text-lg">Report {r.number}</span>
              </Link>
              <span>as of {r.as_of}</span>
              <span className="text-sm text-soft">
                {r.blocks.join(", ")}; by {r.author}, {r.made_at.slice(0, 10)}
              </span>
              <a
                href={`/api/reports/${r.id}/report.pdf`}
                className="target inline-flex items-center text-slate underline"
              >
                PDF<span className="sr-only"> of report {r.number}</span>
              </a>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
