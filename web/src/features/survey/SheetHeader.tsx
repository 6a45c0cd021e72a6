import { Link } from "react-router";
import { useOutboxCounts } from "@/shared/outbox";
import type { Draft } from "@/shared/records/draft";
import { entryOf } from "@/shared/records/entries";
import type { Row } from "@/shared/records/reads";
import type { Round } from "@/shared/round/round";
import type { Step } from "./steps";
import { WetLock } from "./WetLock";

interface Props {
  draft: Draft;
  row: Row | undefined;
  place: string | undefined;
  steps: Step[];
  at: number;
  /** where this tree is on a round */
  round: Round | null;
}

/** Which tree, where one is in its sheet, and what became of the ones before. */
export function SheetHeader({ draft, row, place, steps, at, round }: Props) {
  const tag = entryOf(draft, "tag")?.body.number || row?.tag;
  const done = steps.filter((s) => s.id !== "where" && s.done(draft)).length;
  const name = entryOf(draft, "determination")?.body.entered ?? (row?.name || "not named");
  return (
    <header className="border-b border-rule">
      <div className="flex items-center justify-between gap-3 px-4 py-1 md:py-2">
        <div className="min-w-0">
          <p className="figure text-2xl font-semibold leading-tight">{tag ? `Tag ${tag}` : "No tag"}</p>
          <p className="latin truncate text-lg leading-tight">{name}</p>
        </div>
        <span className="flex shrink-0 gap-4 text-right">
          <WetLock />
          <Link
            to={`/map/${draft.block}`}
            className="target inline-flex items-center text-sm text-slate underline"
          >
            Leave<span className="hidden sm:inline">&nbsp;(draft is saved)</span>
          </Link>
        </span>
      </div>
      <Progress steps={steps} at={at} draft={draft} />
      <p className="flex flex-wrap gap-x-3 bg-sheet px-4 py-1 text-sm text-soft">
        <strong className="text-ink">
          Step {at + 1} of {steps.length}
        </strong>
        <span className="hidden md:inline">
          {place ?? "…"}, {done === 0 ? "nothing recorded yet" : `${done} recorded`}
        </span>
        {round && <span>{round.done.length} done on this round</span>}
        <OutboxLine />
      </p>
    </header>
  );
}

/** The steps side by side: done, open, and where one is. Drawn, because inline styles are not allowed by the page's policy. */
function Progress({ steps, at, draft }: { steps: Step[]; at: number; draft: Draft }) {
  return (
    <svg
      className="block h-2 w-full"
      viewBox={`0 0 ${steps.length * 10} 2`}
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      {steps.map((s, i) => (
        <rect
          key={s.id}
          x={i * 10 + 0.3}
          width="9.4"
          height="2"
          fill={`var(--color-${i === at ? "ink" : s.done(draft) ? "moss" : "rule"})`}
        />
      ))}
    </svg>
  );
}

function OutboxLine() {
  const { kept, sent, needsAttention } = useOutboxCounts();
  return (
    <span role="status">
      {kept} saved on this device, {sent} sent
      {needsAttention ? <strong className="text-rust">, {needsAttention} needs attention</strong> : ""}
    </span>
  );
}
