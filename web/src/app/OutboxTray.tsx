import { useLiveQuery } from "dexie-react-hooks";
import { download, downloadJson } from "@/shared/download";
import { useMember } from "@/shared/member";
import { nudge, type OutboxItem, type PhotoItem, saved, store } from "@/shared/outbox";
import { Button, ThrowAway } from "@/shared/ui";

const WORDS = {
  saved: "Saved on this device",
  waiting: "Saved on this device, waits for another record",
  sent: "Sent",
  needs_attention: "Needs attention",
};
const KINDS = { plant: "New tree", visit: "Visit", correction: "Correction", clock: "Date confirmed" };
const MOST_SHOWN = 50;

/** Everything on the device that the server may not have. What needs a person comes first; there is a way out for each. */
export function OutboxTray() {
  const member = useMember();
  const items =
    useLiveQuery(() => store.items.where({ owner: member.id }).reverse().sortBy("order"), [member.id]) ?? [];
  const photos = useLiveQuery(() => store.photos.where({ owner: member.id }).toArray(), [member.id]) ?? [];
  if (items.length === 0 && photos.length === 0)
    return <p>All sent. Everything you recorded on this device is on the server.</p>;
  const first = [
    ...items.filter((i) => i.state === "needs_attention"),
    ...items.filter((i) => i.state !== "needs_attention"),
  ];
  return (
    <div>
      <Button onClick={() => nudge()}>Send now</Button>
      <ul className="mt-3 divide-y divide-rule border-y border-rule">
        {photos.map((photo) => (
          <TrayPhoto key={photo.id} photo={photo} />
        ))}
        {first.slice(0, MOST_SHOWN).map((item) => (
          <li key={item.id} className="py-3">
            <p>
              <strong>{WORDS[item.state]}</strong> · {KINDS[item.kind]} ·{" "}
              {new Date(item.recorded_at).toLocaleString()}
            </p>
            {item.message && <p className="text-rust">{item.message}</p>}
            {item.state === "needs_attention" && (
              <WaysOut
                onAgain={() =>
                  saved(store.items.update(item.id, { state: "saved", message: undefined, failures: 0 }))
                }
                onSave={() => saveItem(item)}
                onThrowAway={() => saved(store.items.delete(item.id))}
              />
            )}
          </li>
        ))}
      </ul>
      {first.length > MOST_SHOWN && (
        <p className="mt-2 text-sm text-soft">{first.length - MOST_SHOWN} more.</p>
      )}
    </div>
  );
}

function TrayPhoto({ photo }: { photo: PhotoItem }) {
  return (
    <li className="py-3">
      <p>
        <strong>{WORDS[photo.state]}</strong> · Photograph, {Math.round(photo.blob.size / 1024)} kB
      </p>
      {photo.message && <p className="text-rust">{photo.message}</p>}
      {photo.state === "needs_attention" && (
        <WaysOut
          onAgain={() =>
            saved(store.photos.update(photo.id, { state: "saved", message: undefined, failures: 0 }))
          }
          onSave={() => download(photo.blob, `jubark-photo-${photo.id}.jpg`)}
          onThrowAway={() => saved(store.photos.delete(photo.id))}
        />
      )}
    </li>
  );
}

/** Try again, take it along as a file, or throw it away at the second press. */
function WaysOut({
  onAgain,
  onSave,
  onThrowAway,
}: {
  onAgain: () => Promise<unknown>;
  onSave: () => void;
  onThrowAway: () => Promise<unknown>;
}) {
  return (
    <div className="mt-2 flex flex-wrap gap-2">
      <Button onClick={() => void onAgain().then(nudge)}>Try again</Button>
      <Button onClick={onSave}>Save as a file</Button>
      <ThrowAway onThrowAway={onThrowAway} />
    </div>
  );
}

const saveItem = (item: OutboxItem): void => downloadJson(item, `jubark-${item.kind}-${item.id}.json`);
