import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, unwrap } from "@/api/client";
import { readNumber } from "@/shared/numbers";
import { Button, Field, Notice, Select } from "@/shared/ui";

interface Thing {
  kind: "wall" | "wire" | "path" | "neighbour";
  distance_m: string;
  height_m: string;
  spread_m: string;
}
const KINDS = { wall: "a wall", wire: "a wire overhead", path: "a path", neighbour: "a neighbour tree" };

const noNumber = (typed: string) =>
  typed.trim() && readNumber(typed) === null ? `${typed} is no number of metres` : undefined;

/** Does it fit: the grown plant against what stands round the place, before planting and for what stands. */
export function SpaceCheck({ taxon }: { taxon: string }) {
  const [things, setThings] = useState<Thing[]>([]);
  const numbers = things.map((t) => ({
    kind: t.kind,
    distance_m: readNumber(t.distance_m) ?? 0,
    ...(t.kind === "wire" ? { height_m: readNumber(t.height_m) ?? 0 } : {}),
    ...(t.kind === "neighbour" ? { spread_m: readNumber(t.spread_m) ?? 0 } : {}),
  }));
  const whole =
    things.length > 0 &&
    things.every(
      (t) => readNumber(t.distance_m) !== null && (t.kind !== "wire" || readNumber(t.height_m) !== null),
    );
  const rows = useQuery({
    queryKey: ["space", taxon, numbers],
    enabled: whole,
    retry: false,
    placeholderData: (before) => before,
    queryFn: async () => unwrap(await api.POST("/api/size/space/", { body: { taxon, things: numbers } })),
  });
  const set = (i: number, part: Partial<Thing>) =>
    setThings(things.map((t, j) => (j === i ? { ...t, ...part } : t)));
  return (
    <div className="mt-2">
      <Button
        onClick={() => setThings([...things, { kind: "wall", distance_m: "", height_m: "", spread_m: "" }])}
      >
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
            label="Distance (m)"
            inputMode="decimal"
            value={t.distance_m}
            error={noNumber(t.distance_m)}
            onChange={(e) => set(i, { distance_m: e.target.value })}
          />
          {t.kind === "wire" ? (
            <Field
              label="Wire's height (m)"
              inputMode="decimal"
              value={t.height_m}
              error={noNumber(t.height_m)}
              onChange={(e) => set(i, { height_m: e.target.value })}
            />
          ) : t.kind === "neighbour" ? (
            <Field
              label="Its spread (m)"
              inputMode="decimal"
              value={t.spread_m}
              error={noNumber(t.spread_m)}
              onChange={(e) => set(i, { spread_m: e.target.value })}
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
