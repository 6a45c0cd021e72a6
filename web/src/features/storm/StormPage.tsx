import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { reaches, useMember } from "@/shared/member";
import { useToday } from "@/shared/records/place";
import { type Block, type Row, useBlocks, usePlan } from "@/shared/records/reads";
import { inWalkingOrder, isTreeThatStands } from "@/shared/round/round";
import { Button, Field, Notice, PageState, Select } from "@/shared/ui";
import { LookSheet } from "./LookSheet";
import { NotInTheList } from "./NotInTheList";
import {
  byUrgency,
  GROUPS,
  groupOf,
  type Look,
  type Looked,
  type Storm,
  setStorm,
  useDoubles,
  useLooks,
  useStormNow,
} from "./useStorm";

const MOST_SHOWN = 200;

/** After a storm: wires and people first, three taps a tree, and what was not reached yet is said so. */
export function StormPage() {
  const member = useMember();
  const blocks = useBlocks();
  const { plantId } = useParams();
  const now = useStormNow();
  const firstDay = useToday(blocks.data?.[0]?.id);
  const storm: Storm = now ?? { block: blocks.data?.[0]?.id ?? "", since: firstDay };
  const block = blocks.data?.find((b) => b.id === storm.block);
  const latest = useToday(block?.id);
  if (!reaches(member, "surveyor"))
    return (
      <div className="p-4">
        <Notice kind="refused">Recording after a storm needs the role surveyor or further.</Notice>
      </div>
    );
  if (!blocks.data) return <PageState error={blocks.error} what="the blocks" />;
  return (
    <div className="mx-auto max-w-2xl p-4 md:p-8">
      <h1 className="mb-3 text-3xl">After a storm</h1>
      {!plantId && (
        <div className="mb-4 grid grid-cols-2 gap-3">
          <Select
            label="Block"
            value={storm.block}
            onChange={(e) => setStorm({ ...storm, block: e.target.value })}
          >
            {!block && <option value="">choose</option>}
            {blocks.data.map((b) => (
              <option key={b.id} value={b.id}>
                {b.name}
              </option>
            ))}
          </Select>
          <Field
            label="Storm of"
            type="date"
            value={storm.since}
            max={latest}
            onChange={(e) => e.target.value && setStorm({ ...storm, since: e.target.value })}
          />
        </div>
      )}
      {block ? <OfBlock storm={storm} block={block} plantId={plantId} /> : <p>No block yet.</p>}
    </div>
  );
}

function OfBlock({ storm, block, plantId }: { storm: Storm; block: Block; plantId: string | undefined }) {
  const navigate = useNavigate();
  const [typed, setTyped] = useState("");
  const words = typed.trim().toLowerCase();
  const plan = usePlan(block.id);
  const trees = plan.rows.filter(isTreeThatStands);
  const { looks, error } = useLooks(storm, trees);
  const doubles = useDoubles(looks);
  if (!plan.data && trees.length === 0) return <PageState error={plan.error} what="the trees" />;
  const asked = trees.find((r) => r.id === plantId);
  if (plantId)
    return asked ? (
      <LookSheet key={asked.id} row={asked} before={looks.find((l) => l.row.id === plantId)?.look} />
    ) : (
      <Notice kind="refused">This tree is not in {block.name}.</Notice>
    );
  const tagOf = (id: string) => trees.find((r) => r.id === id)?.tag || "a tree without a tag";
  const reached = looks.filter((l) => l.look);
  const left = inWalkingOrder(looks.filter((l) => !l.look).map((l) => l.row));
  const found = left.filter((row) => row.tag.includes(words) || row.name.toLowerCase().includes(words));
  const open = (row: Row) => void navigate(`/storm/${row.id}`);
  return (
    <div className="grid gap-5">
      <p aria-live="polite">
        <strong className="figure text-2xl">
          {reached.length} of {trees.length}
        </strong>{" "}
        looked at since the storm
      </p>
      {error && (
        <Notice kind="caution">What others saw could not be read; it comes when there is a network.</Notice>
      )}
      {doubles.map((d) => (
        <Notice key={d.trees.join()} kind="caution" title="Probably one tree, entered twice.">
          {d.trees.map(tagOf).join(" and ")} are down {d.metres} m from each other, entered by two people. A
          steward merges them on the page of either.
        </Notice>
      ))}
      {GROUPS.map((group) => {
        const of = reached.filter((l) => l.look && groupOf(l) === group.id).sort(byUrgency);
        return of.length > 0 && <Group key={group.id} label={group.label} looks={of} onOpen={open} />;
      })}
      <section aria-label="Not yet looked at">
        <h2 className="text-xl">Not yet looked at: {left.length}</h2>
        <Field
          label="Find by tag or name"
          type="search"
          inputMode="numeric"
          className="mb-3"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
        />
        <ul className="border-t border-rule">
          {found.slice(0, MOST_SHOWN).map((row) => (
            <li key={row.id} className="border-b border-rule">
              <button
                type="button"
                className="grid min-h-[56px] w-full grid-cols-[5rem_1fr] items-center gap-2 text-left"
                onClick={() => open(row)}
              >
                <span className="figure text-xl font-semibold">{row.tag || "no tag"}</span>
                <span className="latin min-w-0 break-words">{row.name || "not named"}</span>
              </button>
            </li>
          ))}
        </ul>
        {found.length > MOST_SHOWN && (
          <p className="mt-2 text-sm text-soft">{found.length - MOST_SHOWN} more; find by tag or name.</p>
        )}
        {trees.length === 0 && <p>No standing tree in this block.</p>}
      </section>
      <NotInTheList block={block} />
      <p className="text-sm text-soft">
        Saved on this device at once, and sent when there is a network. A tree that was not reached counts as
        not looked at, whatever was found before the storm.
      </p>
      <Button onClick={() => void navigate("/")}>Back to Today</Button>
    </div>
  );
}

/** A look in a line: people, wires that hold the tree, and the rest. */
function inShort(look: Look | undefined, wires: boolean): string {
  const under = look?.under_it ?? [];
  return [
    under.includes("person") && "a person under it",
    under.includes("wires") ? "wires: stay 10 m away" : wires && "wires seen before: held until the operator",
    under.includes("line_near") && "a line near it",
    look?.lies && says(look.lies),
    look?.blocks && (look.blocks === "nothing" ? "blocks nothing" : `blocks ${says(look.blocks)}`),
    look?.next_step && says(look.next_step),
  ]
    .filter(Boolean)
    .join("; ");
}

const says = (word: string | undefined) => (word ?? "").replaceAll("_", " ");

function Group({ label, looks, onOpen }: { label: string; looks: Looked[]; onOpen: (row: Row) => void }) {
  return (
    <section aria-label={label}>
      <h2 className="text-xl">
        {label}: {looks.length}
      </h2>
      <ul className="border-t border-rule">
        {looks.map(({ row, look, wires, by, sent }) => (
          <li key={row.id} className="border-b border-rule">
            <button
              type="button"
              className="grid min-h-[56px] w-full grid-cols-[5rem_1fr_auto] items-center gap-2 text-left"
              onClick={() => onOpen(row)}
            >
              <span className="figure text-xl font-semibold">{row.tag || "no tag"}</span>
              <span className="min-w-0">{inShort(look, wires)}</span>
              <span className="text-sm text-soft">{sent ? by : "on this device"}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
