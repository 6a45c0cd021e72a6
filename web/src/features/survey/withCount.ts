import type { BodyOf } from "@/shared/records/entries";

type Sign = BodyOf<"sign">;

/** A sign whose count holds together: no ground without a number; ground on which none was found has the number 0. */
export function withCount({ number, over_m2, ...sign }: Sign): Sign {
  const counted = sign.present === false ? (over_m2 ? 0 : undefined) : number;
  if (typeof counted !== "number") return sign;
  return { ...sign, number: counted, ...(over_m2 ? { over_m2 } : {}) };
}
