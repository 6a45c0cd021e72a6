import { useState } from "react";
import { reaches } from "@/shared/member";
import { useVocabulary } from "@/shared/records/reads";
import { NoSite, SitePicker, useSitePicked } from "@/shared/site/SitePicker";
import { PageState } from "@/shared/ui";
import { Jobs } from "./Jobs";
import { ProposalGroup } from "./ProposalGroup";
import { useSiteWork } from "./useSiteWork";
import { YearOfWork } from "./YearOfWork";

/** Work: what files propose, what is taken up, what blocks it, and the seasons it may be done in. */
export function WorkPage() {
  const picked = useSitePicked();
  const { member, sites, site, blocks, block, on, set } = picked;
  const vocabulary = useVocabulary();
  const [open, setOpen] = useState<string | null>(null);
  const work = useSiteWork(picked.asked, on);
  if (!sites || !blocks || !vocabulary.data)
    return <PageState error={picked.error ?? vocabulary.error} what="the work" />;
  if (!site) return <NoSite />;
  const found = work.data;
  const inBlock = <T extends { block: string }>(rows: T[]) => rows.filter((r) => !block || r.block === block);
  const proposals = inBlock(found?.proposals ?? []);
  const jobs = inBlock(found?.jobs ?? []);
  const rules = [...new Set(proposals.map((p) => p.proposal.rule))];
  const mayDecide = reaches(member, "steward");
  return (
    <div className="mx-auto max-w-6xl p-4 md:p-8">
      <h1 className="mb-4 text-3xl">Work</h1>
      <SitePicker sites={sites} site={site} blocks={blocks} block={block} on={on} set={set} />
      {!found && <PageState error={work.error} what="the work of the site" />}
      {found && (
        <div className="grid gap-6">
          <p>
            {jobs.length} {jobs.length === 1 ? "job" : "jobs"},{" "}
            {jobs.filter((j) => j.checks.some((c) => c.open)).length} blocked by a check. {proposals.length}{" "}
            {proposals.length === 1 ? "proposal" : "proposals"}
            {found.more > 0 && ` and ${found.more} more`}: rules propose, people decide.
          </p>
          {jobs.length > 0 && <Jobs jobs={jobs} on={on} vocabulary={vocabulary.data} mayDecide={mayDecide} />}
          <YearOfWork proposals={proposals} on={on} />
          <section aria-label="Proposals">
            <h2 className="text-xl">Proposals</h2>
            {rules.length === 0 && <p>Nothing is proposed for these trees on this day.</p>}
            {rules.map((rule) => (
              <ProposalGroup
                key={rule}
                rows={proposals.filter((p) => p.proposal.rule === rule)}
                on={on}
                open={open === rule}
                onOpen={() => setOpen(open === rule ? null : rule)}
                mayDecide={mayDecide}
              />
            ))}
          </section>
        </div>
      )}
    </div>
  );
}
