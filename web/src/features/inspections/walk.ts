import { keptOnDevice } from "@/shared/keptOnDevice";

/** A walk that has begun: where, in which light, and which trees were passed. */
export interface Walk {
  block: string;
  street: string;
  daylight: string;
  leaf: string;
  began_at: string;
  passed: string[];
}

const walk = keptOnDevice<Walk>("jubark walk");
export const useWalk = walk.use;
export const startWalk = walk.put;
export const endWalk = () => walk.put(null);
