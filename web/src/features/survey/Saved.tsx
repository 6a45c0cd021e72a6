import { useNavigate } from "react-router";
import { useItem } from "@/shared/outbox";
import type { Row } from "@/shared/records/reads";
import { endRound, isToVisit, nextNearest, useRound } from "@/shared/round/round";
import { useSessionEnded } from "@/shared/session";
import { useUnits } from "@/shared/site/units";
import { Button } from "@/shared/ui";

/** After keeping: what became of it, how far the round is, and the nearest stem that is left. */
export function Saved({
  visitId,
  plantId,
  row,
  rows,
}: {
  visitId: string;
  plantId: string;
  row: Row | undefined;
  rows: Row[];
}) {
  const item = useItem(visitId);
  const navigate = useNavigate();
  const units = useUnits();
  const round = useRound();
  const ended = useSessionEnded();
  const inRound = round !== null && round.block === row?.block_id;
  const ahead = nextNearest(rows, inRound ? round.done : [plantId], row, inRound ? round.order : undefined);
  const stems = (inRound && round.order?.length) || rows.filter(isToVisit).length;
  const words =
    item?.state === "sent"
      ? "Sent"
      : item?.state === "needs_attention"
        ? "Needs attention"
        : "Saved on this device";
  const go = () => ahead && navigate(`/survey/${ahead.row.id}?block=${ahead.row.block_id}`);
  return (
    <div className="mx-auto grid min-h-dvh max-w-xl content-center gap-4 p-6">
      <p role="status" className="figure text-4xl font-semibold">
        {words}
      </p>
      <p className="text-soft">
        {item?.state === "sent"
          ? "The visit is on the server and in the inventory."
          : item?.state === "needs_attention"
            ? item.message
            : ended
              ? "The visit is on this device. You are signed out: sign in, and it is sent."
              : "The visit is on this device. It is sent as soon as you are online; nothing more to do."}
      </p>
      {inRound && (
        <div>
          <p>
            <strong>{round.done.length}</strong> of {stems} trees of this round done
          </p>
          <progress
            className="h-3 w-full accent-moss"
            value={round.done.length}
            max={stems}
            aria-label="Trees of this round done"
          />
        </div>
      )}
      <div className="flex flex-wrap gap-2">
        {ahead && (
          <Button weight={inRound ? "act" : "plain"} autoFocus={inRound} onClick={go}>
            Next: {ahead.row.tag ? `tag ${ahead.row.tag}` : "a tree without tag"}
            {ahead.metres !== null &&
              `, ${units.shown(ahead.metres, "m", ahead.metres < 10 ? 1 : 0)} ${ahead.towards}`}
          </Button>
        )}
        {inRound && !ahead && <Button onClick={endRound}>End the round</Button>}
        <Button weight={inRound ? "plain" : "act"} onClick={() => navigate(`/history/${plantId}`)}>
          Open its history
        </Button>
        <Button onClick={() => navigate(row ? `/map/${row.block_id}` : "/map")}>To the map</Button>
      </div>
    </div>
  );
}
