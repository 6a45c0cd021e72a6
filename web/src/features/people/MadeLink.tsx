import { useState } from "react";
import type { Schemas } from "@/api/client";
import { Button, Notice } from "@/shared/ui";

/** A link just made, shown this once: whoever has it can use it, so it is handed over like a key. */
export function MadeLink({ made }: { made: Schemas["MadeLink"] }) {
  const [copied, setCopied] = useState("");
  const address = `${location.origin}/join#${made.token}`;
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(address);
      setCopied("Copied.");
    } catch {
      setCopied("Copying is not allowed here; mark the address and copy it.");
    }
  };
  return (
    <Notice kind="caution" title="Hand this link over now; it is not shown again.">
      <p className="my-2 break-all border border-rule bg-sheet p-2 text-sm" data-link>
        {address}
      </p>
      <p className="mb-2 text-sm">
        It works once, for 72 hours. Give it to {made.link.member || made.link.shown_name || "the person"}{" "}
        directly: whoever opens it first has it.
      </p>
      <Button onClick={() => void copy()}>Copy link</Button>{" "}
      <span role="status" className="text-sm">
        {copied}
      </span>
    </Notice>
  );
}
