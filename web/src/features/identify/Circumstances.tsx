import { useState } from "react";
import type { Change, Draft } from "@/shared/records/draft";
import { entriesOf } from "@/shared/records/entries";
import { useBlocks } from "@/shared/records/reads";
import { Dialog, Select } from "@/shared/ui";
import { WhereAndWhen } from "@/shared/visit/WhereAndWhen";

interface Props {
  draft: Draft;
  change: (part: Change) => Promise<unknown>;
}

/** Of a plant named that is no tree of the site: where, when, of what age; and putting it aside for the next one. */
export function Circumstances({ draft, change }: Props) {
  const [open, setOpen] = useState(false);
  const blocks = useBlocks();
  return (
    <>
      <button
        type="button"
        className="target whitespace-nowrap text-slate underline"
        onClick={() => setOpen(true)}
      >
        Where and when
      </button>
      {entriesOf(draft, "observation").length > 0 && (
        <button
          type="button"
          className="target whitespace-nowrap text-slate underline"
          onClick={() => void change({ entries: [], earlier: undefined })}
        >
          Next plant
        </button>
      )}
      <Dialog open={open} onOpenChange={setOpen} title="Where and when">
        <div className="grid gap-4">
          <Select label="Block" value={draft.block} onChange={(e) => void change({ block: e.target.value })}>
            {blocks.data?.map((b) => (
              <option key={b.id} value={b.id}>
                {b.name}
              </option>
            ))}
          </Select>
          <WhereAndWhen draft={draft} change={change} />
        </div>
      </Dialog>
    </>
  );
}
