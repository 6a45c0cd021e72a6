import { Link } from "react-router";
import { today } from "@/shared/dates";
import { reaches } from "@/shared/member";
import { useVocabulary } from "@/shared/records/reads";
import { NoSite, SitePicker, useSitePicked } from "@/shared/site/SitePicker";
import { Term } from "@/shared/terms/Term";
import { PageState, Select } from "@/shared/ui";
import { CoverageTable } from "./CoverageTable";
import { RegimeTable } from "./RegimeTable";
import { MakeReport, ReportsMade } from "./Reports";
import { useCoverage, useRegime } from "./useCoverage";

/** Coverage: of each tree when it was looked at, by whom, at which level, what was not seen, what is overdue. */
export function InspectionsPage() {
  const picked = useSitePicked();
  const { member, sites, site, blocks: own, block, on, params, set } = picked;
  const vocabulary = useVocabulary();
  const known = params.get("known") === "now" ? "now" : "then";
  const coverage = useCoverage({ site: picked.asked, on, block, known });
  const regime = useRegime(site?.id);
  if (!sites || !own || !vocabulary.data)
    return <PageState error={picked.error ?? vocabulary.error} what="the sites" />;
  if (!site) return <NoSite />;
  return (
    <div className="mx-auto max-w-6xl p-4 md:p-8">
      <h1 className="mb-4 text-3xl">Inspections</h1>
      <SitePicker
        sites={sites}
        site={site}
        blocks={own}
        block={block}
        on={on}
        dayLabel="As of"
        latest={today(member)}
        set={set}
      >
        <Select
          label="By what was known"
          value={known}
          onChange={(e) => set("known", e.target.value === "now" ? "now" : "")}
        >
          <option value="then">at the end of that day</option>
          <option value="now">now, with what came in later</option>
        </Select>
      </SitePicker>
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
