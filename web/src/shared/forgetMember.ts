import { leaveCore } from "@/core";
import { saved, store } from "@/shared/outbox";
import { endRound } from "@/shared/round/round";

/** Takes off the device what belongs to who was signed in: what was read, the round, the flora. What was written stays. */
export async function forgetMember(): Promise<void> {
  endRound();
  await leaveCore();
  await saved(store.copies.clear());
}
