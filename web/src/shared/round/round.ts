import { keptOnDevice } from "@/shared/keptOnDevice";
import type { Row } from "@/shared/records/reads";

/** A round through a block: which stems are done, and whether the whole sheet is filled in or the diameter only. */
export interface Round {
  block: string;
  mode: "whole" | "diameter";
  done: string[];
  /** the trees of a planned round in walking order; without it every tree of the block, nearest after nearest */
  order?: string[] | undefined;
}

const round = keptOnDevice<Round>("jubark round");
const { read, put: write } = round;
export const useRound = round.use;

export const startRound = (block: string, mode: Round["mode"], order?: string[]) =>
  write({ block, mode, done: [], ...(order ? { order } : {}) });
export const endRound = () => write(null);
/** A stem is done when its visit is kept. */
export const stemDone = (plant: string) => {
  const now = read();
  if (now && !now.done.includes(plant)) write({ ...now, done: [...now.done, plant] });
};

export interface Ahead {
  row: Row;
  metres: number | null;
  towards: string;
}

/** A tree that a round comes to: stumps too, for they sprout. */
export const isToVisit = (row: Row): boolean =>
  row.form === "tree" && !["removed", "not_found"].includes(row.life);
/** A tree of which something may fall, or has fallen. */
export const isTreeThatStands = (row: Row): boolean => isToVisit(row) && row.life !== "stump";

const WINDS = ["north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west"];
const M_PER_DEGREE = 111_320;

/**
 * The nearest standing stem of the round that is not done, from where one stands; without a place, by tag. In a
 * planned round the next of its order that is in the block still.
 */
export function nextNearest(
  rows: Row[],
  done: string[],
  from: Row | undefined,
  order?: string[],
): Ahead | null {
  const next = order?.find((id) => !done.includes(id) && rows.some((r) => r.id === id));
  const left = rows.filter((r) => (order ? r.id === next : isToVisit(r) && !done.includes(r.id)));
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

const MOST_IN_ORDER = 800; // more than anybody walks in a day

/** The trees as they would be walked, nearest after nearest from the first by tag; very many, by tag. */
export function inWalkingOrder(rows: Row[]): Row[] {
  if (rows.length > MOST_IN_ORDER) return [...rows].sort((a, b) => a.tag.localeCompare(b.tag));
  const order: Row[] = [];
  let left = rows;
  let ahead = nextNearest(left, [], undefined);
  while (ahead) {
    const { row } = ahead;
    order.push(row);
    left = left.filter((r) => r.id !== row.id);
    ahead = nextNearest(left, [], row);
  }
  return order;
}
