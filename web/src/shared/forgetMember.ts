import { leaveCore } from "@/core";
import { forgetNotes } from "@/shared/keptOnDevice";
import { forgetCopies } from "@/shared/outbox";

/** Takes off the device what belongs to who was signed in: what was read, the notes, the flora. What was written stays. */
export async function forgetMember(): Promise<void> {
  forgetNotes();
  await leaveCore();
  await forgetCopies();
}
