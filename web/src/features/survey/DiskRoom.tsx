import { useEffect, useState } from "react";
import { tooLittleRoom } from "@/shared/outbox";
import { Notice } from "@/shared/ui";

/** Said before a round is started and before a sheet is filled in: a device without room would lose what is typed. */
export function DiskRoom() {
  const [left, setLeft] = useState<number | null>(null);
  useEffect(() => void tooLittleRoom().then(setLeft), []);
  if (left === null) return null;
  return (
    <Notice kind="caution" title="This device is nearly full.">
      {Math.round(left / 1_000_000)} MB are left for records and photographs. Send what is saved on this
      device and make room before going on.
    </Notice>
  );
}
