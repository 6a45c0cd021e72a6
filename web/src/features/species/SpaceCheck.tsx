import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { core } from "@/core";
import { useUnits } from "@/shared/site/units";
import { Button, Field, Notice, Select } from "@/shared/ui";

interface Thing {
  kind: "wall" | "wire" | "path" | "neighbour";
  /** as typed, in the units of the site */
  distance: string;
  height: string;
  spread: string;
}
const KINDS = { wall: "a wall", wire: "a wire overhead", path: "a path", neighbour: "a neighbour tree" };

/** Does it fit: the grown plant against what stands round the place, before planting and for what stands. */
export function SpaceCheck({ taxon }: { taxon: string }) {
  const [things, setThings] = useState<Thing[]>([]);
  const units = useUnits();
  const unit = units.label("m");
  const metres = (typed: string) => units.read(typed, "m");
  const noNumber = (typed: string) =>
    typed.trim() && metres(typed) === null ? `${typed} is no number in ${unit}` : "";
  const numbers = things.map((t) => ({
    kind: t.kind,
    distance_m: metres(t.distance) ?? 0,
    ...(t.kind === "wire" ? { height_m: metres(t.height) ?? 0 } : {}),
    ...(t.kind === "neighbour" ? { spread_m: metres(t.spread) ?? 0 } : {}),
  }));
  const whole =
    things.length > 0 &&
    things.every((t) => metres(t.distance) !== null && (t.kind !== "wire" || metres(t.height) !== null));
  const rows = useQuery({
    queryKey: ["space", taxon, numbers, units.system],
    enabled: whole,
    retry: false,
    placeholderData: (before) => before,
    queryFn: () => core.space({ taxon, things: numbers, units: units.system }),
  });
  const set = (i: number, part: Partial<Thing>) =>
    setThings(things.map((t, j) => (j === i ? { ...t, ...part } : t)));
  return (
    <div className="mt-2">
      <Button onClick={() => setThings([...things, { kind: "wall", distance: "", height: "", spread: "" }])}>
        {things.length ? "Something else near it" : "Does it fit? Add what is near"}
      </Button>
      {things.map((t, i) => (
        <div key={i} className="mt-2 grid grid-cols-[1fr_1fr_1fr_auto] items-end gap-2">
          <Select
            label="Near it"
            value={t.kind}
            onChange={(e) => set(i, { kind: e.target.value as Thing["kind"] })}
          >
            {Object.entries(KINDS).map(([id, label]) => (
              <option key={id} value={id}>
                {label}
              </option>
            ))}
          </Select>
          <Field
            label={`Distance (${unit})`}
            inputMode="decimal"
            value={t.distance}
            error={noNumber(t.distance)}
            onChange={(e) => set(i, { distance: e.target.value })}
          />
          {t.kind === "wire" ? (
            <Field
              label={`Wire's height (${unit})`}
              inputMode="decimal"
              value={t.height}
              error={noNumber(t.height)}
              onChange={(e) => set(i, { height: e.target.value })}
            />
          ) : t.kind === "neighbour" ? (
            <Field
              label={`Its spread (${unit})`}
              inputMode="decimal"
              value={t.spread}
              error={noNumber(t.spread)}
              onChange={(e) => set(i, { spread: e.target.value })}
            />
          ) : (
            <span />
          )}
          <Button
            weight="warn"
            aria-label={`Remove ${KINDS[t.kind]}`}
            onClick={() => setThings(things.filter((_, j) => j !== i))}
          >
            ×
          </Button>
        </div>
      ))}
      {rows.error && <Notice kind="refused">{rows.error.message}</Notice>}
      {whole && (
        <ul aria-live="polite">
          {rows.data?.map((r, i) => (
            <li key={i} className="py-1">
              <strong className={r.fits === "no" ? "text-rust" : r.fits === "yes" ? "text-moss" : ""}>
                {r.fits === "yes" ? "Fits." : r.fits === "no" ? "Does not fit." : "Fits only a small one."}
              </strong>{" "}
              {r.says}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
