import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useBlocker } from "react-router";
import { useMember } from "@/shared/member";
import type { Draft } from "@/shared/records/draft";
import type { Site } from "@/shared/records/reads";
import { storedDraft } from "@/shared/records/useDraft";
import { dropAll, type Held, takeAll } from "@/shared/typed";
import { Button, Dialog } from "@/shared/ui";
import { checkNow } from "./useVisitCheck";

interface Asking {
  wrong: string[];
  onwards: () => void;
}

/**
 * Leaving a step: what stands typed is recorded first. Where it cannot be read it is asked about; where something
 * speaks against a figure that was just recorded the step stays, once, and says so.
 */
export function useLeave(draft: Draft | null | undefined, site: Site | undefined) {
  const held = useRef<Held>(new Map()).current;
  const [asking, setAsking] = useState<Asking | null>(null);
  const member = useMember();
  const client = useQueryClient();
  const leave = async (onwards: () => void) => {
    const before = new Set(draft?.entries.map((e) => JSON.stringify(e)));
    const something = held.size > 0;
    const wrong = await takeAll(held);
    if (wrong.length) return setAsking({ wrong, onwards });
    const now = something && draft ? await storedDraft(member.id, draft.plant) : null;
    if (now && site) {
      const taken = now.entries.filter((e) => !before.has(JSON.stringify(e)));
      if (await checkNow(now, site, client, taken)) return; // the step shows what speaks against it
    }
    onwards();
  };
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) =>
      held.size > 0 && currentLocation.pathname !== nextLocation.pathname && asking === null,
  );
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each navigation that is held up
  useEffect(() => {
    if (blocker.state !== "blocked") return;
    const { proceed, reset } = blocker;
    void takeAll(held).then((wrong) => {
      if (!wrong.length) return proceed();
      reset();
      setAsking({ wrong, onwards: proceed });
    });
  }, [blocker.state]);
  const question = asking && (
    <Dialog open onOpenChange={() => setAsking(null)} title="This is not recorded yet">
      <ul className="grid gap-2">
        {asking.wrong.map((why) => (
          <li key={why}>{why}</li>
        ))}
      </ul>
      <div className="mt-4 flex flex-wrap gap-2">
        <Button weight="act" onClick={() => setAsking(null)}>
          Correct it
        </Button>
        <Button
          weight="warn"
          onClick={() => {
            dropAll(held);
            setAsking(null);
            asking.onwards();
          }}
        >
          Leave it out
        </Button>
      </div>
    </Dialog>
  );
  return { held, leave, question };
}
