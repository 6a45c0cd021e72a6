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
  return (
    <header className="border-b border-rule">
      <div className="flex items-start justify-between gap-3 px-4 py-2">
        <div>
          <p className="figure text-2xl font-semibold">{tag ? `Tag ${tag}` : "No tag"}</p>
          <p className="text-sm text-soft">{place ?? "…"}</p>
        </div>
        <div className="text-right">
          <p className="font-bold">
            Step {at + 1} of {steps.length}
          </p>
          <p className="hidden text-sm text-soft md:block">
            {done === 0 ? "nothing recorded yet" : `${done} recorded`}
          </p>
          {round && <p className="text-sm text-soft">{round.done.length} done on this round</p>}
          <OutboxLine />
        </div>
      </div>
      <Progress steps={steps} at={at} draft={draft} />
      <div className="flex items-center justify-between bg-sheet px-4 py-2">
        <p className="latin text-xl">
          {entryOf(draft, "determination")?.body.entered ?? (row?.name || "not named")}
        </p>
        <span className="flex gap-4">
          <WetLock />
          <Link
            to={`/map/${draft.block}`}
            className="target inline-flex items-center text-sm text-slate underline"
          >
            Leave (draft is saved)
          </Link>
        </span>
      </div>
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
    <p className="text-sm text-soft" role="status">
      {kept} saved on this device, {sent} sent
      {needsAttention ? <strong className="text-rust">, {needsAttention} needs attention</strong> : ""}
    </p>
  );
}
