import { Offline } from "@/api/client";
import { Notice } from "./Notice";

/** What stands where a page's data is not there: loading, or why not. */
export function PageState({ error, what }: { error: Error | null; what: string }) {
  if (error instanceof Offline)
    return (
      <Notice kind="caution">
        Offline, and {what} was not saved on this device. Open it once while online.
      </Notice>
    );
  if (error) return <Notice kind="refused">{error.message}</Notice>;
  return (
    <p role="status" className="p-4 text-soft">
      Reading {what} …
    </p>
  );
}
