import { useState } from "react";
import { useNavigate } from "react-router";
import { newId } from "@/shared/ids";
import { useSave } from "@/shared/outbox";
import type { Block } from "@/shared/records/reads";
import { Button, Notice } from "@/shared/ui";

const NOT_SURE_M = 200; // of a place that is only the middle of the block

/** A tree that nobody has recorded yet: it gets the place of the device, or for now the middle of the block. */
export function NotInTheList({ block }: { block: Block }) {
  const save = useSave();
  const navigate = useNavigate();
  const [said, setSaid] = useState("");
  const make = async (lon: number, lat: number, how_taken: "satellite" | "typed", accuracy_m: number) => {
    const id = newId();
    await save("plant", {
      id,
      block: block.id,
      form: "tree",
      how_taken,
      lon,
      lat,
      accuracy_m,
      recorded_at: new Date().toISOString(),
    });
    void navigate(`/storm/${id}`);
  };
  const ask = () => {
    setSaid("Asking the device for its place …");
    navigator.geolocation.getCurrentPosition(
      ({ coords }) =>
        void make(coords.longitude, coords.latitude, "satellite", Math.min(coords.accuracy, 10_000)),
      (error) => setSaid(`The device gave no place (${error.message}).`),
      { enableHighAccuracy: true, timeout: 10_000 },
    );
  };
  const middle = () => {
    const ring = ((block.boundary as { coordinates?: [number, number][][] }).coordinates ?? [])[0] ?? [];
    const mean = (i: 0 | 1) => ring.reduce((sum, at) => sum + at[i], 0) / Math.max(1, ring.length);
    void make(mean(0), mean(1), "typed", NOT_SURE_M);
  };
  return (
    <section aria-label="A tree that is not in the list" className="grid gap-2">
      <h2 className="text-xl">A tree that is not in the list</h2>
      <Button onClick={ask}>It stands where I am</Button>
      {said && (
        <>
          <Notice kind="caution">{said}</Notice>
          <Button onClick={middle}>Put it in the middle of {block.name} for now</Button>
        </>
      )}
    </section>
  );
}
