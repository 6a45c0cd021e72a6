import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, unwrap } from "@/api/client";
import { reaches, useMember } from "@/shared/member";
import { type Plant, usePlan, usePlant } from "@/shared/records/reads";
import { Button, Dialog, Field, Notice } from "@/shared/ui";

const CHANGED = ["plant", "plan", "inventory", "coverage", "day", "storm"];

/** Two records of one tree: said on both, made one by a steward, and taken back. */
export function Merge({ plant }: { plant: Plant }) {
  const steward = reaches(useMember(), "steward");
  const client = useQueryClient();
  const into = usePlant(plant.merged_into ?? undefined).data;
  const [open, setOpen] = useState(false);
  const [wrong, setWrong] = useState("");
  const path = { params: { path: { plant_id: plant.id } } };
  const act = async (run: () => Promise<unknown>) => {
    setWrong("");
    try {
      await run();
      for (const key of CHANGED) await client.invalidateQueries({ queryKey: [key] });
      setOpen(false);
    } catch (error) {
      setWrong(error instanceof Error ? error.message : "Nothing was changed.");
    }
  };
  if (plant.merged_into)
    return (
      <Notice kind="caution" title="A duplicate.">
        This is a second record of{" "}
        <Link to={`/history/${plant.merged_into}`} className="underline">
          {into?.current.tag ? `tag ${into.current.tag}` : "another tree"}
        </Link>
        . It counts no more; what was recorded of it counts there.
        {steward && (
          <Button
            className="mt-2 block"
            onClick={() =>
              void act(async () => unwrap(await api.DELETE("/api/plants/{plant_id}/merge/", path)))
            }
          >
            Take the merge back
          </Button>
        )}
        {wrong && <p role="alert">{wrong}</p>}
      </Notice>
    );
  return (
    <>
      {plant.duplicates.length > 0 && (
        <p className="text-sm text-soft">
          With what was recorded of it a second time:{" "}
          {plant.duplicates.map((id, i) => (
            <Link key={id} to={`/history/${id}`} className="target mr-3 inline-flex items-center underline">
              duplicate {i + 1}
            </Link>
          ))}
        </p>
      )}
      {steward && (
        <button
          type="button"
          className="min-h-[44px] text-sm text-slate underline"
          onClick={() => setOpen(true)}
        >
          It is a duplicate of another record
        </button>
      )}
      <Dialog open={open} onOpenChange={setOpen} title="A duplicate of">
        {open && (
          <Choose
            plant={plant}
            wrong={wrong}
            onChosen={(id, reason) =>
              void act(async () =>
                unwrap(
                  await api.POST("/api/plants/{plant_id}/merge/", {
                    ...path,
                    body: { into: id, ...(reason ? { reason } : {}) },
                  }),
                ),
              )
            }
          />
        )}
      </Dialog>
    </>
  );
}

interface ChooseProps {
  plant: Plant;
  wrong: string;
  onChosen: (id: string, reason: string) => void;
}

function Choose({ plant, wrong, onChosen }: ChooseProps) {
  const plan = usePlan(plant.block_id);
  const [tag, setTag] = useState("");
  const [reason, setReason] = useState("");
  const found = plan.rows.filter(
    (r) => r.id !== plant.id && r.form === plant.form && tag && r.tag === tag.trim(),
  );
  return (
    <div className="grid gap-3">
      <p className="text-sm text-soft">
        The other record goes on. This one stays with its visits, counts no more, and can be parted again.
      </p>
      <Field label="Tag of the record that goes on" value={tag} onChange={(e) => setTag(e.target.value)} />
      <Field
        label="How it is known"
        value={reason}
        maxLength={300}
        onChange={(e) => setReason(e.target.value)}
      />
      {tag && found.length === 0 && <p>No other tree of this block carries this tag.</p>}
      {wrong && <Notice kind="refused">{wrong}</Notice>}
      {found.map((row) => (
        <Button key={row.id} weight="act" onClick={() => onChosen(row.id, reason.trim())}>
          Merge into tag {row.tag}, {row.name || "not named"}
        </Button>
      ))}
    </div>
  );
}
