import { useSyncExternalStore } from "react";
import type { Row } from "@/shared/records/reads";

/** A round through a block: which stems are done, and whether the whole sheet is filled in or the diameter only. */
export interface Round {
  block: string;
  mode: "whole" | "diameter";
  done: string[];
}

const KEY = "jubark round";
const listeners = new Set<() => void>();
let kept: Round | null | undefined;

function read(): Round | null {
  if (kept === undefined) {
    try {
      kept = JSON.parse(localStorage.getItem(KEY) ?? "null") as Round | null;
    } catch {
      kept = null; // a broken note of a round loses nothing: every visit is kept by itself
    }
  }
  return kept ?? null;
}

function write(round: Round | null) {
  kept = round;
  if (round) localStorage.setItem(KEY, JSON.stringify(round));
  else localStorage.removeItem(KEY);
  for (const tell of listeners) tell();
}

export const startRound = (block: string, mode: Round["mode"]) => write({ block, mode, done: [] });
export const endRound = () => write(null);
/** A stem is done when its visit is kept. */
export const stemDone = (plant: string) => {
  const now = read();
  if (now && !now.done.includes(plant)) write({ ...now, done: [...now.done, plant] });
};

export function useRound(): Round | null {
  return useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      return () => listeners.delete(tell);
    },
    read,
    read,
  );
}

export interface Ahead {
  row: Row;
  metres: number | null;
  towards: string;
}

const WINDS = ["north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west"];
const M_PER_DEGREE = 111_320;

/** The nearest standing stem of the round that is not done, from where one stands; without a place, by tag. */
export function nextNearest(rows: Row[], done: string[], from: Row | undefined): Ahead | null {
  const left = rows.filter(
    (r) => r.form === "tree" && !["removed", "not_found"].includes(r.life) && !done.includes(r.id),
  );
  const here = from && from.lon !== null && from.lat !== null ? { lon: from.lon, lat: from.lat } : null;
  const ahead = left.map((row): Ahead => {
    if (!here || row.lon === null || row.lat === null) return { row, metres: null, towards: "" };
    const north = (row.lat - here.lat) * M_PER_DEGREE;
    const east = (row.lon - here.lon) * M_PER_DEGREE * Math.cos((here.lat * Math.PI) / 180);
    const wind = Math.round(((Math.atan2(east, north) * 180) / Math.PI + 360) / 45) % 8;
    return { row, metres: Math.hypot(north, east), towards: WINDS[wind] ?? "" };
  });
  const far = (a: Ahead) => a.metres ?? 1e9;
  const untagged = (a: Ahead) => Number(a.row.tag === ""); // one sets out at a stem that can be made sure of
  return (
    ahead.sort(
      (a, b) => far(a) - far(b) || untagged(a) - untagged(b) || a.row.tag.localeCompare(b.row.tag),
    )[0] ?? null
  );
}
