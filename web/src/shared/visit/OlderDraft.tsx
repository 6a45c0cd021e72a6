import { Offline } from "@/api/client";
import { downloadJson } from "@/shared/download";
import type { Older } from "@/shared/records/useDraft";
import { Button, Notice, ThrowAway } from "@/shared/ui";

/** A draft of an earlier version of the app that cannot be opened yet. Nothing of it is touched meanwhile. */
export function OlderDraft({ older, onThrowAway }: { older: Older; onThrowAway: () => unknown }) {
  const { error, draft } = older;
  const offline = error instanceof Offline;
  return (
    <div className="grid gap-3 p-4">
      <Notice kind="caution" title="This draft was made by an earlier version of the app.">
        {offline
          ? "It is unchanged on this device. Connect once, and it opens here as you left it."
          : `It is unchanged on this device, but could not be opened: ${error.message}`}
      </Notice>
      {!offline && (
        <div className="flex flex-wrap gap-2">
          <Button onClick={() => downloadJson(draft, `jubark-draft-${draft.id}.json`)}>Save as a file</Button>
          <ThrowAway onThrowAway={onThrowAway} />
        </div>
      )}
    </div>
  );
}
