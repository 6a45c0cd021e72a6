import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { api, unwrap } from "@/api/client";
import { PageState } from "@/shared/ui";
import { CoverageTable } from "./CoverageTable";

/** A report as it was made. */
export function ReportPage() {
  const { reportId = "" } = useParams();
  const report = useQuery({
    queryKey: ["report", reportId],
    queryFn: async () =>
      unwrap(await api.GET("/api/reports/{report_id}/", { params: { path: { report_id: reportId } } })),
  });
  if (!report.data) return <PageState error={report.error} what="the report" />;
  const told = report.data;
  return (
    <div className="mx-auto max-w-6xl p-4 md:p-8">
      <p className="mb-2 flex flex-wrap gap-x-6">
        <Link to="/inspections" className="target inline-flex items-center text-slate underline">
          Inspections
        </Link>
        <a
          href={`/api/reports/${reportId}/report.pdf`}
          className="target inline-flex items-center text-slate underline"
        >
          This report as PDF
        </a>
      </p>
      <h1 className="text-3xl">Inspections of trees: {told.site}</h1>
      <p className="mb-4">
        As of <strong>{told.on}</strong>, as it was known at the end of that day; {told.blocks.join(", ")}
      </p>
      <CoverageTable report={told} />
      <p className="mt-3 max-w-prose text-sm text-soft">{told.method}</p>
      <p className="mt-1 max-w-prose text-sm text-soft">{told.limits}</p>
    </div>
  );
}
