import { useLiveQuery } from "dexie-react-hooks";
import { useState } from "react";
import { useMember } from "@/shared/member";
import { nudge, type OutboxItem, store } from "@/shared/outbox";
import { Button } from "@/shared/ui";

const WORDS = { kept: "Kept here", waiting: "Kept here, waits for another", sent: "Sent", needs_you: "Needs you" };
const KINDS = { plant: "New stem", visit: "Visit", correction: "Correction" };

/** Everything on the device that the server may not have; a refused one can be saved as a file or thrown away. */
export function OutboxTray() {
  const member = useMember();
  const items = useLiveQuery(() => store.items.where({ owner: member.id }).reverse().sortBy("order"), [member.id]) ?? [];
  const photos = useLiveQuery(() => store.photos.where({ owner: member.id }).toArray(), [member.id]) ?? [];
  if (items.length === 0 && photos.length === 0) return <p>Nothing is waiting. Everything you recorded here has been sent.</p>;
  return (
    <div>
      <Button onClick={() => nudge()}>Send now</Button>
      <ul className="mt-3 divide-y divide-rule border-y border-rule">
        {items.slice(0, 50).map((item) => (
          <TrayItem key={item.id} item={item} />
        ))}
        {photos.map((photo) => (
          <li key={photo.id} className="py-3">
            Photograph, {Math.round(photo.blob.size / 1024)} kB ·{" "}
            {photo.state === "needs_you" ? `Needs you: ${photo.message}` : "Kept here"}
          </li>
        ))}
      </ul>
    </div>
  );
}

function TrayItem({ item }: { item: OutboxItem }) {
  const [sure, setSure] = useState(false);
  return (
    <li className="py-3">
      <p>
        <strong>{WORDS[item.state]}</strong> · {KINDS[item.kind]} · {new Date(item.recorded_at).toLocaleString()}
      </p>
      {item.message && <p className="text-rust">{item.message}</p>}
      {item.state === "needs_you" && (
        <div className="mt-2 flex flex-wrap gap-2">
          <Button onClick={() => store.items.update(item.id, { state: "kept", message: undefined }).then(nudge)}>Try again</Button>
          <Button onClick={() => save(item)}>Save as a file</Button>
          <Button weight="warn" onClick={() => (sure ? void store.items.delete(item.id) : setSure(true))}>
            {sure ? "Throw away for good" : "Throw away"}
          </Button>
        </div>
      )}
    </li>
  );
}

function save(item: OutboxItem): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(new Blob([JSON.stringify(item, null, 1)], { type: "application/json" }));
  link.download = `jubark-${item.kind}-${item.id}.json`;
  link.click();
  URL.revokeObjectURL(link.href);
}
