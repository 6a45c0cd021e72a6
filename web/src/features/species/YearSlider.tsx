import { useEffect, useState } from "react";
import type { Schemas } from "@/api/client";
import { inWords } from "@/shared/dates";
import { SeasonRing } from "@/shared/season-ring/SeasonRing";

const SETTLE_MS = 180; // plates are drawn anew once the hand rests

/** A day of the year by one finger: the ring turns at once, the plates follow when the hand rests. */
export function YearSlider({
  on,
  onDate,
  ring,
}: {
  on: string;
  onDate: (date: string) => void;
  ring: Schemas["Showing"][] | undefined;
}) {
  const [day, setDay] = useState(dayOf(on));
  useEffect(() => setDay(dayOf(on)), [on]);
  const shown = dateOf(on, day);
  useEffect(() => {
    if (shown === on) return;
    const waiting = setTimeout(() => onDate(shown), SETTLE_MS);
    return () => clearTimeout(waiting);
  }, [shown, on, onDate]);
  return (
    <div className="flex flex-wrap items-center gap-4">
      {ring && <SeasonRing rows={ring} date={shown} size={132} />}
      <label className="min-w-52 flex-1">
        <span className="block text-sm text-soft">Drawn for</span>
        <strong>{inWords(shown)}</strong>
        <input
          type="range"
          min={1}
          max={365}
          value={day}
          aria-valuetext={inWords(shown)}
          onChange={(e) => setDay(Number(e.target.value))}
          className="h-11 w-full accent-moss"
        />
      </label>
    </div>
  );
}

const start = (date: string) => Date.UTC(Number(date.slice(0, 4)), 0, 1);
const dayOf = (date: string) =>
  Math.min(365, Math.round((Date.parse(`${date}T00:00:00Z`) - start(date)) / 86_400_000) + 1);
const dateOf = (date: string, day: number) =>
  day === dayOf(date) ? date : new Date(start(date) + (day - 1) * 86_400_000).toISOString().slice(0, 10);
