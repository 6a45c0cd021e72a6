import { useState } from "react";
import { Link } from "react-router";
import { inWords } from "@/shared/dates";
import type { Block, Vocabulary } from "@/shared/records/reads";
import { Notice } from "@/shared/ui";
import type { SiteWork } from "@/shared/work/siteWork";
import { groupsOf } from "./groupsOf";
import { Jobs } from "./Jobs";
import { LookUps } from "./LookUps";
import { HeldBack, Withdrawn } from "./NotProposed";
import { ProposalGroup } from "./ProposalGroup";
import { TooMany } from "./TooMany";
import { fileOf } from "./usePlan";

interface Props {
  site: string;
  found: SiteWork;
  blocks: Block[];
  onBlock: (id: string) => void;
  block: string;
  on: string;
  vocabulary: Vocabulary;
  mayDecide: boolean;
}

const FILES = [
  ["sheets.pdf", "Work sheets (PDF)"],
  ["tender.zip", "Package for a contractor"],
  ["calendar.ics", "Calendar"],
] as const;
const MOST_DONE = 8;

/** What is due now and what blocks it, what is proposed, and what was done within a year. */
export function NowView({ site, found, blocks, onBlock, block, on, vocabulary, mayDecide }: Props) {
  const [open, setOpen] = useState<string | null>(null);
  const inBlock = <T extends { block: string }>(rows: T[]) => rows.filter((r) => !block || r.block === block);
  const jobs = inBlock(found.jobs);
  const proposals = inBlock(found.proposals);
  const done = inBlock(found.done);
  const groups = groupsOf(proposals);
  return (
    <div className="grid gap-6">
      {found.order.length > 0 && <OrderOfRounds blocks={found.order} />}
      {jobs.length > 0 && (
        <>
          <p className="flex flex-wrap gap-x-5 text-sm">
            {FILES.map(([name, label]) => (
              <a
                key={name}
                className="target inline-flex items-center text-slate underline"
                href={fileOf(site, name, on)}
              >
                {label}
              </a>
            ))}
          </p>
          <Jobs jobs={jobs} on={on} vocabulary={vocabulary} mayDecide={mayDecide} />
          <LookUps site={site} on={on} blocks={blocks} vocabulary={vocabulary} mayDecide={mayDecide} />
        </>
      )}
      <section aria-label="Proposals">
        <h2 className="text-xl">Proposals</h2>
        {found.too_many > 0 ? (
          <TooMany trees={found.too_many} blocks={blocks} block={block} onBlock={onBlock} />
        ) : (
          groups.length === 0 && <p>Nothing is proposed for these trees on this day.</p>
        )}
        {groups.map(({ key, rows }) => (
          <ProposalGroup
            key={key}
            rows={rows}
            on={on}
            open={open === key}
            onOpen={() => setOpen(open === key ? null : key)}
            mayDecide={mayDecide}
          />
        ))}
        {found.more > 0 && <p className="text-sm text-soft">and {found.more} more proposals.</p>}
        <HeldBack rows={inBlock(found.held_back)} />
      </section>
      <Withdrawn rows={inBlock(found.withdrawn)} />
      {done.length > 0 && (
        <section aria-label="Done within a year">
          <h2 className="text-xl">Done within a year</h2>
          <ul className="border-t border-rule">
            {done.slice(0, MOST_DONE).map((d) => (
              <li key={d.job} className="flex flex-wrap items-baseline gap-x-3 border-b border-rule py-1">
                <Link to={`/history/${d.plant}`} className="font-bold text-slate underline">
                  {d.tag || "no tag"}
                </Link>
                <span>{d.title}</span>
                <span className="text-sm text-soft">
                  {inWords(d.on)}. {d.result}
                  {d.workmanship && ` Defects of workmanship: ${d.workmanship}.`}
                </span>
                {d.though.length > 0 && <b className="text-sm text-rust">{d.though.join(" ")}</b>}
              </li>
            ))}
          </ul>
          {done.length > MOST_DONE && (
            <p className="text-sm text-soft">and {done.length - MOST_DONE} more.</p>
          )}
        </section>
      )}
    </div>
  );
}

/** Where a disease travels in soil: the blocks in the order in which they are worked. */
function OrderOfRounds({ blocks }: { blocks: SiteWork["order"] }) {
  const said = blocks.map((b) =>
    b.causes.length ? `${b.block_name} (${b.causes.join(", ")})` : b.block_name,
  );
  return (
    <Notice kind="caution" title="Clean blocks first:">
      {said.join(", then ")}. Uphill before downhill; boots, tools and tyres are washed, brushed and
      disinfected between blocks.
    </Notice>
  );
}
