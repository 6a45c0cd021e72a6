import { Link, useNavigate } from "react-router";
import { newId } from "@/shared/ids";
import { reaches, useMember } from "@/shared/member";
import { useSave } from "@/shared/outbox";
import { emptyDraft, visitNow, withOne } from "@/shared/records/draft";
import type { EntryIn } from "@/shared/records/entries";
import { useToday } from "@/shared/records/place";
import type { Block, Plant } from "@/shared/records/reads";
import { Button, Notice } from "@/shared/ui";

/** A place where a tree may be planted: a tree is planted in it, or it is given up; either way it is vacant no more. */
export function VacantPlace({ plant, block }: { plant: Plant; block: Block | undefined }) {
  const member = useMember();
  const save = useSave();
  const navigate = useNavigate();
  const on = useToday(plant.block_id);
  const filled = plant.current.life === "removed";
  const close = async (text: string) => {
    const entries: EntryIn[] = [
      { id: newId(), kind: "life", body: { state: "removed" } },
      { id: newId(), kind: "note", body: { text } },
    ];
    await save("visit", visitNow(plant.id, on, entries));
  };
  const plantHere = async () => {
    if (plant.lon === null || plant.lat === null) return;
    const id = newId();
    const empty = emptyDraft(id, plant.block_id, on, block?.setting ?? "unknown", "planted", "young");
    const draft = { ...empty, ...withOne(empty, "planting", { planted_on: on, vacant_place: plant.id }) };
    const tree = {
      id,
      block: plant.block_id,
      form: "tree" as const,
      origin: "planted" as const,
      how_taken: "surveyed" as const,
      lon: plant.lon,
      lat: plant.lat,
      ...(plant.accuracy_m === null ? {} : { accuracy_m: plant.accuracy_m }),
      ...(plant.row_name ? { row_name: plant.row_name } : {}),
      ...(plant.row_position === null ? {} : { row_position: plant.row_position }),
      recorded_at: new Date().toISOString(),
    };
    await save("plant", tree, [], { plant: id, draft });
    await close("A tree was planted here.");
    void navigate(`/survey/${id}?block=${plant.block_id}`);
  };
  return (
    <div className="mx-auto grid max-w-2xl gap-4 p-4 md:p-8">
      <h1 className="text-3xl">{filled ? "Planting site, vacant no more" : "Vacant planting site"}</h1>
      <p className="text-soft">
        {[
          block?.name,
          plant.row_name && `${plant.row_name} ${plant.row_position ?? ""}`,
          plant.lat !== null && `${plant.lat.toFixed(6)}, ${plant.lon?.toFixed(6)}`,
        ]
          .filter(Boolean)
          .join(" · ")}
      </p>
      {filled && <Notice kind="caution">A tree was planted here, or the place was given up.</Notice>}
      {!filled && reaches(member, "surveyor") && (
        <div className="flex flex-wrap gap-2">
          <Button weight="act" onClick={() => void plantHere()}>
            Plant a tree here
          </Button>
          <Button
            onClick={() =>
              void close("The place was given up.").then(() => navigate(`/map/${plant.block_id}`))
            }
          >
            Give the place up
          </Button>
        </div>
      )}
      <Link to={`/map/${plant.block_id}`} className="target inline-flex items-center text-slate underline">
        On the map
      </Link>
    </div>
  );
}
