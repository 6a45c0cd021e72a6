import { OutOfSignal } from "@/api/client";
import { Notice } from "./Notice";

/** What stands where a page's data is not there: loading, or why not. */
export function PageState({ error, what }: { error: Error | null; what: string }) {
  if (error instanceof OutOfSignal)
    return (
      <Notice kind="caution">
        Out of signal, and {what} was not kept on this device. Open it once in signal and it will be.
      </Notice>
    );
  if (error) return <Notice kind="refused">{error.message}</Notice>;
  return (
    <p role="status" className="p-4 text-soft">
      Reading {what} …
    </p>
  );
}
