import { Link, useSearchParams } from "react-router";
import { today } from "@/shared/dates";
import { reaches, useMember } from "@/shared/member";
import { useBlocks, useSites, useVocabulary } from "@/shared/records/reads";
import { Term } from "@/shared/terms/Term";
import { Field, Notice, PageState, Select } from "@/shared/ui";
import { CoverageTable } from "./CoverageTable";
import { RegimeTable } from "./RegimeTable";
import { MakeReport, ReportsMade } from "./Reports";
import { useCoverage, useRegime } from "./useCoverage";

const DAY = /^\d{4}-\d{2}-\d{2}$/;

/** Coverage: of each tree when it was looked at, by whom, at which level, what was not seen, what is overdue. */
export function InspectionsPage() {
  const member = useMember();
  const sites = useSites();
  const blocks = useBlocks();
  const vocabulary = useVocabulary();
  const [params, setParams] = useSearchParams();
  const site = sites.data?.find((s) => s.id === params.get("site")) ?? sites.data?.[0];
  const on = params.get("on") ?? today(member);
  const block = params.get("block") ?? "";
  const known = params.get("known") === "now" ? "now" : "then";
  const coverage = useCoverage({ site: DAY.test(on) ? site?.id : undefined, on, block, known });
  const regime = useRegime(site?.id);
  const set = (key: string, value: string) => {
    const next = new URLSearchParams(params);
    if (value) next.set(key, value);
    else next.delete(key);
    if (key === "site") next.delete("block");
    setParams(next, { replace: true });
  };
  if (!sites.data || !blocks.data || !vocabulary.data)
    return <PageState error={sites.error ?? blocks.error ?? vocabulary.error} what="the sites" />;
  if (!site)
    return (
      <div className="p-4">
        <Notice kind="refused">No site yet. A steward makes one.</Notice>
      </div>
    );
  const own = blocks.data.filter((b) => b.site_id === site.id);
  return (
    <div className="mx-auto max-w-6xl p-4 md:p-8">
      <h1 className="mb-4 text-3xl">Inspections</h1>
      <div className="mb-6 grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
        {sites.data.length > 1 && (
          <Select label="Site" value={site.id} onChange={(e) => set("site", e.target.value)}>
            {sites.data.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </Select>
        )}
        <Select label="Block" value={block} onChange={(e) => set("block", e.target.value)}>
          <option value="">all blocks</option>
          {own.map((b) => (
            <option key={b.id} value={b.id}>
              {b.name}
            </option>
          ))}
        </Select>
        <Field
          label="As of"
          type="date"
          value={on}
          max={today(member)}
          onChange={(e) => set("on", e.target.value)}
        />
        <Select
          label="By what was known"
          value={known}
          onChange={(e) => set("known", e.target.value === "now" ? "now" : "")}
        >
          <option value="then">at the end of that day</option>
          <option value="now">now, with what came in later</option>
        </Select>
      </div>
      {reaches(member, "surveyor") && (
        <p className="mb-6 flex flex-wrap gap-x-6">
          <Link
            to={`/inspections/walk${block ? `?block=${block}` : ""}`}
            className="target inline-flex items-center text-slate underline"
          >
            Walk a street, exceptions only
          </Link>
          <Link to="/storm" className="target inline-flex items-center text-slate underline">
            After a storm
          </Link>
          <Link to={`/map?site=${site.id}`} className="target inline-flex items-center text-slate underline">
            Targets on the map
          </Link>
        </p>
      )}
      {regime.data && (
        <RegimeTable
          site={site}
          regime={regime.data}
          vocabulary={vocabulary.data}
          mayChange={reaches(member, "steward")}
        />
      )}
      <section aria-label="Coverage" className="mb-6">
        <h2 className="text-xl">
          <Term id="coverage">Coverage</Term>
        </h2>
        {coverage.data ? (
          <>
            <CoverageTable key={`${site.id} ${block}`} report={coverage.data} />
            <p className="mt-3 max-w-prose text-sm text-soft">{coverage.data.method}</p>
            <p className="mt-1 max-w-prose text-sm text-soft">{coverage.data.limits}</p>
          </>
        ) : (
          <PageState error={coverage.error} what="the inspections" />
        )}
      </section>
      {reaches(member, "surveyor") && <MakeReport site={site} block={block} on={on} />}
      <ReportsMade site={site.id} />
    </div>
  );
}
