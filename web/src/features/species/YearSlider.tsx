import { useEffect, useState } from "react";
import type { Schemas } from "@/api/client";
import { dayOfYear, inWords, onDayOfYear } from "@/shared/dates";
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
  const [day, setDay] = useState(dayOfYear(on));
  useEffect(() => setDay(dayOfYear(on)), [on]);
  const shown = onDayOfYear(on, day);
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
