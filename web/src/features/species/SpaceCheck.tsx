import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { core } from "@/core";
import { useVocabulary } from "@/shared/records/reads";
import { useUnits } from "@/shared/site/units";
import { Button, Field, Notice, Select } from "@/shared/ui";

interface Thing {
  kind: string;
  /** what its kind asks, as typed, in the units of the site */
  typed: Record<string, string>;
}
const ASKED: Record<string, { label: string; si: string }> = {
  distance_m: { label: "Distance", si: "m" },
  height_m: { label: "Its height", si: "m" },
  spread_m: { label: "Its spread", si: "m" },
  volume_m3: { label: "Soil for roots", si: "m3" },
};

/** Does it fit: the grown plant against what stands round the place, before planting and for what stands. */
export function SpaceCheck({ taxon }: { taxon: string }) {
  const [things, setThings] = useState<Thing[]>([]);
  const units = useUnits();
  const kinds = useVocabulary().data?.near_things ?? [];
  const asks = (kind: string) => kinds.find((k) => k.id === kind)?.asks ?? [];
  const si = (key: string) => ASKED[key]?.si ?? "m";
  const read = (key: string, typed = "") => units.read(typed, si(key));
  const unit = (key: string) => units.label(si(key));
  const numbers = things.map((t) => ({
    kind: t.kind,
    ...Object.fromEntries(asks(t.kind).map((key) => [key, read(key, t.typed[key]) ?? 0])),
  }));
  const whole =
    things.length > 0 && things.every((t) => asks(t.kind).every((key) => read(key, t.typed[key]) !== null));
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
      <Button onClick={() => setThings([...things, { kind: "wall", typed: {} }])}>
        {things.length ? "Something else near it" : "Does it fit? Add what is near"}
      </Button>
      {things.map((t, i) => (
        <div key={i} className="mt-2 grid grid-cols-[1fr_1fr_1fr_auto] items-end gap-2">
          <Select label="Near it" value={t.kind} onChange={(e) => set(i, { kind: e.target.value })}>
            {kinds.map((k) => (
              <option key={k.id} value={k.id}>
                {k.label}
              </option>
            ))}
          </Select>
          {asks(t.kind).map((key) => (
            <Field
              key={key}
              label={`${ASKED[key]?.label} (${unit(key)})`}
              inputMode="decimal"
              value={t.typed[key] ?? ""}
              error={
                (t.typed[key] ?? "").trim() && read(key, t.typed[key]) === null
                  ? `${t.typed[key]} is no number in ${unit(key)}`
                  : ""
              }
              onChange={(e) => set(i, { typed: { ...t.typed, [key]: e.target.value } })}
            />
          ))}
          {asks(t.kind).length < 2 && <span />}
          <Button
            weight="warn"
            aria-label={`Remove ${kinds.find((k) => k.id === t.kind)?.label}`}
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
