import { useState } from "react";
import { useSearchParams } from "react-router";
import { today } from "@/shared/dates";
import { reaches, useMember } from "@/shared/member";
import { useBlocks, useSites, useVocabulary } from "@/shared/records/reads";
import { Field, Notice, PageState, Select } from "@/shared/ui";
import { Jobs } from "./Jobs";
import { ProposalGroup } from "./ProposalGroup";
import { useSiteWork } from "./useSiteWork";
import { YearOfWork } from "./YearOfWork";

/** Work: what files propose, what is taken up, what blocks it, and the seasons it may be done in. */
export function WorkPage() {
  const member = useMember();
  const sites = useSites();
  const blocks = useBlocks();
  const vocabulary = useVocabulary();
  const [params, setParams] = useSearchParams();
  const [open, setOpen] = useState<string | null>(null);
  const site = sites.data?.find((s) => s.id === params.get("site")) ?? sites.data?.[0];
  const on = params.get("on") ?? today(member);
  const block = params.get("block") ?? "";
  const work = useSiteWork(/^\d{4}-\d{2}-\d{2}$/.test(on) ? site?.id : undefined, on);
  const set = (key: string, value: string) => {
    const next = new URLSearchParams(params);
    if (value) next.set(key, value);
    else next.delete(key);
    setParams(next, { replace: true });
  };
  if (!sites.data || !vocabulary.data)
    return <PageState error={sites.error ?? vocabulary.error} what="the work" />;
  if (!site)
    return (
      <div className="p-4">
        <Notice kind="refused">No site yet. A steward makes one.</Notice>
      </div>
    );
  const found = work.data;
  const inBlock = <T extends { block: string }>(rows: T[]) => rows.filter((r) => !block || r.block === block);
  const proposals = inBlock(found?.proposals ?? []);
  const jobs = inBlock(found?.jobs ?? []);
  const rules = [...new Set(proposals.map((p) => p.proposal.rule))];
  const mayDecide = reaches(member, "steward");
  return (
    <div className="mx-auto max-w-6xl p-4 md:p-8">
      <h1 className="mb-4 text-3xl">Work</h1>
      <div className="mb-4 grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
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
          {blocks.data
            ?.filter((b) => b.site_id === site.id)
            .map((b) => (
              <option key={b.id} value={b.id}>
                {b.name}
              </option>
            ))}
        </Select>
        <Field label="On" type="date" value={on} onChange={(e) => set("on", e.target.value)} />
      </div>
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
