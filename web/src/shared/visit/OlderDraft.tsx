import { Offline } from "@/api/client";
import { Notice } from "@/shared/ui";

/** A draft of an earlier version of the app that cannot be opened yet. Nothing of it is touched meanwhile. */
export function OlderDraft({ error }: { error: Error }) {
  return (
    <div className="p-4">
      <Notice kind="caution" title="This draft was made by an earlier version of the app.">
        {error instanceof Offline
          ? "It is unchanged on this device. Connect once, and it opens here as you left it."
          : `It is unchanged on this device, but could not be opened: ${error.message}`}
      </Notice>
    </div>
  );
}
