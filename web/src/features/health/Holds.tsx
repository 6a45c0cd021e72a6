import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, unwrap } from "@/api/client";
import { inWords as day } from "@/shared/dates";
import { useToday } from "@/shared/records/place";
import { Button, Dialog, Field, Notice } from "@/shared/ui";
import type { SiteHealth } from "./useSiteHealth";

type Hold = SiteHealth["holds"][number];

/** Movement holds that stand: they begin with a suspicion and end by a reference. */
export function Holds({ health, mayLift }: { health: SiteHealth; mayLift: boolean }) {
  const [lifting, setLifting] = useState<Hold | null>(null);
  if (!health.holds.length) return null;
  return (
    <section aria-label="Movement holds" className="grid gap-2">
      <h2 className="text-xl">Movement holds</h2>
      {health.holds.map((h) => (
        <Notice key={`${h.block} ${h.cause}`} kind="caution" title={`${h.block_name}: ${h.name}`}>
          <p>
            Since {day(h.since)}, {h.plants.length} {h.plants.length === 1 ? "plant" : "plants"}. {h.says}
          </p>
          <p>Tell: {h.tell}.</p>
          <p className="flex flex-wrap gap-4">
            {h.plants.slice(0, 3).map((plant) => (
              <Link
                key={plant}
                to={`/history/${plant}`}
                className="target inline-flex items-center text-slate underline"
              >
                The plant
              </Link>
            ))}
            {mayLift && <Button onClick={() => setLifting(h)}>End the hold</Button>}
          </p>
        </Notice>
      ))}
      <Dialog open={lifting !== null} onOpenChange={() => setLifting(null)} title="End the hold">
        {lifting && <LiftForm hold={lifting} onDone={() => setLifting(null)} />}
      </Dialog>
    </section>
  );
}

function LiftForm({ hold, onDone }: { hold: Hold; onDone: () => void }) {
  const client = useQueryClient();
  const now = useToday(hold.block);
  const [on, setOn] = useState(now);
  const [reference, setReference] = useState("");
  const [wrong, setWrong] = useState("");
  const save = async () => {
    try {
      unwrap(
        await api.POST("/api/blocks/{block_id}/holds/", {
          params: { path: { block_id: hold.block } },
          body: { cause: hold.cause, on, reference },
        }),
      );
      await client.invalidateQueries({ queryKey: ["site health"] });
      onDone();
    } catch (error) {
      setWrong(error instanceof Error ? error.message : String(error));
    }
  };
  return (
    <div className="grid gap-3">
      <p>
        {hold.block_name}, {hold.name}. A laboratory's report or the authority's letter ends it; a later
        suspicion begins it anew.
      </p>
      <Field label="Ended on" type="date" value={on} onChange={(e) => setOn(e.target.value)} />
      <Field
        label="Reference"
        hint="Number of the report or the letter."
        value={reference}
        onChange={(e) => setReference(e.target.value)}
      />
      {wrong && <Notice kind="refused">{wrong}</Notice>}
      <Button weight="act" disabled={!reference.trim()} onClick={() => void save()}>
        End the hold
      </Button>
    </div>
  );
}
