import { useState } from "react";
import type { Schemas } from "@/api/client";
import { Button, Notice } from "@/shared/ui";

/** What is hardly meant as it stands: a sentence with two ways out, to mend it or to keep it. */
export function Asked({ asks }: { asks: Schemas["AskedAgain"][] }) {
  const [kept, setKept] = useState<string[]>([]);
  return asks
    .filter((a) => !kept.includes(a.says))
    .map((a) => (
      <Notice key={a.says} kind="caution" title={a.says}>
        {a.ways[0]} where it is asked below, or{" "}
        <Button weight="quiet" onClick={() => setKept([...kept, a.says])}>
          {a.ways[1]}
        </Button>
      </Notice>
    ));
}
