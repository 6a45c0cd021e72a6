import { reaches } from "@/shared/member";
import { useVocabulary } from "@/shared/records/reads";
import { InSite } from "@/shared/site/InSite";
import { NoSite, SitePicker, useSitePicked } from "@/shared/site/SitePicker";
import { Choice, PageState } from "@/shared/ui";
import { useBlockWork } from "@/shared/work/siteWork";
import { CrewsAndRates } from "./CrewsAndRates";
import { MoneyView } from "./MoneyView";
import { NowView } from "./NowView";
import { PlantingView } from "./PlantingView";
import { YearView } from "./YearView";

const VIEWS = [
  { id: "now", label: "Now" },
  { id: "year", label: "The year" },
  { id: "money", label: "Money" },
  { id: "planting", label: "Planting" },
  { id: "crews", label: "Crews and rates" },
];

/** Work: what is due now and what blocks it, the year, what it costs, and what it is planned with. */
export function WorkPage() {
  const picked = useSitePicked();
  const { member, sites, site, blocks, block, on, set, params } = picked;
  const vocabulary = useVocabulary();
  const work = useBlockWork(picked.asked, on, block);
  if (!sites || !blocks || !vocabulary.data)
    return <PageState error={picked.error ?? vocabulary.error} what="the work" />;
  if (!site) return <NoSite />;
  const view = VIEWS.find((v) => v.id === params.get("view"))?.id ?? "now";
  const found = work.data;
  const inBlock = <T extends { block: string }>(rows: T[]) => rows.filter((r) => !block || r.block === block);
  const jobs = inBlock(found?.jobs ?? []);
  const proposals = inBlock(found?.proposals ?? []);
  const mayDecide = reaches(member, "steward");
  const shared = { site: site.id, block, on, vocabulary: vocabulary.data, mayDecide };
  return (
    <div className="mx-auto max-w-6xl p-4 md:p-8">
      <h1 className="mb-4 text-3xl">Work</h1>
      <SitePicker sites={sites} site={site} blocks={blocks} block={block} on={on} set={set} />
      <div className="mb-5 flex flex-wrap items-end justify-between gap-3">
        <Choice label="View" hideLabel value={view} options={VIEWS} onChange={(id) => set("view", id)} />
        {found && (
          <p className="text-sm text-soft">
            {jobs.length} {jobs.length === 1 ? "job" : "jobs"},{" "}
            {jobs.filter((j) => j.checks.some((c) => c.open)).length} blocked by a check.{" "}
            {found.too_many > 0
              ? "Proposals by block"
              : `${proposals.length} ${proposals.length === 1 ? "proposal" : "proposals"}`}
            {found.more > 0 && ` and ${found.more} more`}: rules propose, people decide.
          </p>
        )}
      </div>
      {!found && <PageState error={work.error} what="the work of the site" />}
      {found && view === "now" && (
        <NowView found={found} blocks={blocks} onBlock={(id) => set("block", id)} {...shared} />
      )}
      {found && view === "year" && <YearView found={found} {...shared} />}
      {found && view === "money" && <MoneyView site={site.id} on={on} currency={found.currency} />}
      {view === "planting" && (
        <InSite site={site}>
          <PlantingView site={site.id} on={on} />
        </InSite>
      )}
      {found && view === "crews" && (
        <CrewsAndRates site={site.id} vocabulary={vocabulary.data} mayChange={mayDecide} />
      )}
    </div>
  );
}
