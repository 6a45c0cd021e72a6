import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { type Block, useBlocks, usePlan } from "@/shared/records/reads";
import { endRound, nextNearest, type Round, startRound, useRound } from "@/shared/round/round";
import { Button, Choice, PageState } from "@/shared/ui";
import { DiskRoom } from "./DiskRoom";

/** Walk starts here: a round through a block, nearest stem after nearest stem, or one stem picked on the map. */
export function PickTree() {
  const blocks = useBlocks();
  const round = useRound();
  const [mode, setMode] = useState<Round["mode"]>("whole");
  const [starting, setStarting] = useState<Block | null>(null);
  if (!blocks.data) return <PageState error={blocks.error} what="the blocks" />;
  return (
    <div className="mx-auto max-w-2xl p-4 md:p-8">
      <h1 className="mb-2 text-2xl">Survey</h1>
      {round && <GoOn round={round} name={blocks.data.find((b) => b.id === round.block)?.name ?? ""} />}
      {starting && <Start block={starting} mode={mode} />}
      <Choice
        label="On a round"
        value={mode}
        onChange={(v) => setMode(v as Round["mode"])}
        options={[
          { id: "whole", label: "whole sheet" },
          { id: "diameter", label: "diameter only" },
        ]}
      />
      <ul className="mt-4 border-t border-rule">
        {blocks.data.map((b) => (
          <li
            key={b.id}
            className="flex flex-wrap items-center justify-between gap-2 border-b border-rule py-2"
          >
            <span>
              <strong>{b.name}</strong> <span className="text-soft">{b.plant_count} plants</span>
            </span>
            <span className="flex gap-2">
              <Button
                disabled={b.plant_count === 0}
                onClick={() => setStarting(b)}
                aria-label={`Start a round through ${b.name}`}
              >
                Start a round
              </Button>
              <Link to={`/map/${b.id}`} className="target inline-flex items-center text-slate underline">
                Pick on the map
              </Link>
            </span>
          </li>
        ))}
      </ul>
      {blocks.data.length === 0 && <p className="mt-4">No block yet. A steward opens one.</p>}
    </div>
  );
}

/** The first stem of a round is the first by tag: that is where one sets out. */
function Start({ block, mode }: { block: Block; mode: Round["mode"] }) {
  const navigate = useNavigate();
  const plan = usePlan(block.id);
  const first = nextNearest(plan.rows, [], undefined);
  return (
    <div className="my-3 grid gap-3 border-l-4 border-moss bg-sheet p-3">
      <DiskRoom />
      {plan.data && !first && <p>No standing tree in {block.name}.</p>}
      {first && (
        <Button
          weight="act"
          onClick={() => {
            startRound(block.id, mode);
            navigate(`/survey/${first.row.id}?block=${block.id}`);
          }}
        >
          Start through {block.name} at {first.row.tag ? `tag ${first.row.tag}` : "its first tree"}
        </Button>
      )}
      {!plan.data && <PageState error={plan.error} what="the trees" />}
    </div>
  );
}

function GoOn({ round, name }: { round: Round; name: string }) {
  const navigate = useNavigate();
  const plan = usePlan(round.block);
  const last = plan.rows.find((r) => r.id === round.done.at(-1));
  const ahead = nextNearest(plan.rows, round.done, last, round.order);
  return (
    <section className="my-3 border-l-4 border-moss bg-sheet p-3" aria-label="Round">
      <p>
        Round through <strong>{name}</strong>, {round.mode === "diameter" ? "diameter only" : "whole sheet"}:{" "}
        {round.done.length} done.
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        {ahead && (
          <Button weight="act" onClick={() => navigate(`/survey/${ahead.row.id}?block=${round.block}`)}>
            Go on: {ahead.row.tag ? `tag ${ahead.row.tag}` : "next tree"}
          </Button>
        )}
        <Button onClick={endRound}>End the round</Button>
      </div>
    </section>
  );
}
