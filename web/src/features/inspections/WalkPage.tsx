import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { newId } from "@/shared/ids";
import { reaches, useMember } from "@/shared/member";
import { useSave } from "@/shared/outbox";
import { visitNow } from "@/shared/records/draft";
import type { EntryIn } from "@/shared/records/entries";
import { useToday } from "@/shared/records/place";
import { useBlocks, usePlan } from "@/shared/records/reads";
import { inWalkingOrder, isTreeThatStands } from "@/shared/round/round";
import { Term } from "@/shared/terms/Term";
import { Button, Choice, Notice, PageState, Select } from "@/shared/ui";
import { endWalk, startWalk, useWalk, type Walk } from "./walk";

const LIGHT = [
  { id: "full", label: "full daylight" },
  { id: "dull", label: "dull" },
  { id: "dusk", label: "dusk" },
  { id: "dark", label: "dark, by lamp" },
];
const LEAF = [
  { id: "in_leaf", label: "in leaf" },
  { id: "partly", label: "partly" },
  { id: "out_of_leaf", label: "out of leaf" },
];

/** A walk along a street that stops only where something stands out: one tap for each tree that was passed. */
export function WalkPage() {
  const member = useMember();
  const blocks = useBlocks();
  const walk = useWalk();
  const [saved, setSaved] = useState(0);
  if (!reaches(member, "surveyor"))
    return (
      <div className="p-4">
        <Notice kind="refused">Recording a walk needs the role surveyor or further.</Notice>
      </div>
    );
  if (!blocks.data) return <PageState error={blocks.error} what="the blocks" />;
  return (
    <div className="mx-auto max-w-2xl p-4 md:p-8">
      <h1 className="mb-2 text-3xl">
        <Term id="exceptions_only">Walk, exceptions only</Term>
      </h1>
      <p className="mb-4 text-sm text-soft">
        It is recorded as a limited visual inspection, from one side and without stopping. A tree at which
        something stands out gets a visit of its own. Trees that were not passed stay as they are.
      </p>
      {saved > 0 && (
        <p role="status" className="mb-4">
          {saved === 1 ? "1 tree is" : `${saved} trees are`} saved as passed.{" "}
          <Link to="/inspections" className="text-slate underline">
            Inspections
          </Link>
        </p>
      )}
      {walk ? <Passing walk={walk} onSaved={setSaved} /> : <Begin />}
    </div>
  );
}

function Begin() {
  const blocks = useBlocks();
  const [params] = useSearchParams();
  const [block, setBlock] = useState(params.get("block") ?? "");
  const [street, setStreet] = useState("");
  const [daylight, setDaylight] = useState("");
  const [leaf, setLeaf] = useState("");
  const plan = usePlan(block || undefined);
  const streets = [...new Set(plan.rows.map((r) => r.row_name).filter(Boolean))].sort();
  return (
    <div className="grid gap-4">
      <Select
        label="Block"
        value={block}
        onChange={(e) => {
          setBlock(e.target.value);
          setStreet("");
        }}
      >
        <option value="">choose</option>
        {blocks.data?.map((b) => (
          <option key={b.id} value={b.id}>
            {b.name}
          </option>
        ))}
      </Select>
      {streets.length > 0 && (
        <Select label="Street or row" value={street} onChange={(e) => setStreet(e.target.value)}>
          <option value="">the whole block</option>
          {streets.map((s) => (
            <option key={s} value={s}>
              {s}
            </option>
          ))}
        </Select>
      )}
      <Choice label="Daylight" value={daylight} onChange={setDaylight} options={LIGHT} />
      <Choice label="Most trees are" value={leaf} onChange={setLeaf} options={LEAF} />
      <Button
        weight="act"
        disabled={!block || !daylight || !leaf}
        onClick={() =>
          startWalk({ block, street, daylight, leaf, began_at: new Date().toISOString(), passed: [] })
        }
      >
        Begin the walk
      </Button>
      {block && plan.data && plan.rows.length === 0 && <p>No tree in this block.</p>}
    </div>
  );
}

function Passing({ walk, onSaved }: { walk: Walk; onSaved: (trees: number) => void }) {
  const on = useToday(walk.block);
  const save = useSave();
  const plan = usePlan(walk.block);
  const trees = inWalkingOrder(
    plan.rows.filter((r) => isTreeThatStands(r) && (!walk.street || r.row_name === walk.street)),
  );
  const passed = trees.filter((r) => walk.passed.includes(r.id));
  const set = (ids: string[]) => startWalk({ ...walk, passed: ids });
  const finish = async () => {
    const ended = new Date().toISOString();
    for (const row of passed) await save("visit", visitNow(row.id, on, [passedBy(walk, ended)]));
    onSaved(passed.length);
    endWalk();
  };
  if (!plan.data) return <PageState error={plan.error} what="the trees" />;
  return (
    <>
      <p aria-live="polite" className="mb-3">
        <strong className="figure text-2xl">
          {passed.length} of {trees.length}
        </strong>{" "}
        passed{walk.street && ` in ${walk.street}`}
      </p>
      <ol className="border-t border-rule">
        {trees.map((row, i) => {
          const isPassed = walk.passed.includes(row.id);
          return (
            <li
              key={row.id}
              className="grid grid-cols-[1fr_auto_auto] items-center gap-2 border-b border-rule py-1"
            >
              <span className="min-w-0">
                <span className="figure text-xl font-semibold">{row.tag || `tree ${i + 1}`}</span>{" "}
                <span className="latin break-words text-soft">{row.name}</span>
              </span>
              <Button
                aria-pressed={isPassed}
                weight={isPassed ? "act" : "plain"}
                aria-label={`${row.tag || `tree ${i + 1}`}: passed, nothing stood out`}
                onClick={() =>
                  set(isPassed ? walk.passed.filter((id) => id !== row.id) : [...walk.passed, row.id])
                }
              >
                passed
              </Button>
              <Link
                to={`/survey/${row.id}?block=${walk.block}`}
                className="target inline-flex items-center px-2 text-rust underline"
                aria-label={`${row.tag || `tree ${i + 1}`}: an exception, visit it`}
                onClick={() => set(walk.passed.filter((id) => id !== row.id))}
              >
                exception
              </Link>
            </li>
          );
        })}
      </ol>
      {trees.length === 0 && <p>No standing tree here.</p>}
      <div className="sticky bottom-[56px] mt-4 flex flex-wrap gap-2 border-t border-rule bg-paper py-3 md:bottom-0">
        <Button weight="act" disabled={passed.length === 0} onClick={() => void finish()}>
          End the walk and save {passed.length}
        </Button>
        <Button onClick={endWalk}>Give the walk up</Button>
      </div>
    </>
  );
}

/** What is recorded of a tree that was passed. */
const passedBy = (walk: Walk, ended: string): EntryIn => ({
  id: newId(),
  kind: "inspection",
  body: {
    level: "limited_visual",
    walked: true,
    ...(walk.street ? { walk: walk.street } : {}),
    began_at: walk.began_at,
    ended_at: ended,
    daylight: walk.daylight as "full",
    leaf: walk.leaf as "in_leaf",
  },
});
