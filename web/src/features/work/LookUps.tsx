import { useState } from "react";
import { inWords as day } from "@/shared/dates";
import type { Block, Vocabulary } from "@/shared/records/reads";
import { Button, Dialog, Field, Notice } from "@/shared/ui";
import { EvidenceForm } from "@/shared/work/EvidenceForm";
import { type LookUp, useLookUps } from "./useLookUps";

interface Props {
  site: string;
  on: string;
  blocks: Block[];
  vocabulary: Vocabulary;
  mayDecide: boolean;
}

type Missing = { block: string; block_name: string; kind: string };

/** What nobody has looked up, block by block, and what was told of many trees at once. */
export function LookUps({ site, on, blocks, vocabulary, mayDecide }: Props) {
  const { told, missing, make, withdraw, wrong } = useLookUps(site, on);
  const [asked, setAsked] = useState<Missing | null>(null);
  const [leaving, setLeaving] = useState<LookUp | null>(null);
  const [reason, setReason] = useState("");
  const label = (id: string) =>
    vocabulary.evidence.flatMap((e) => e.kinds).find((k) => k.id === id)?.label ?? id;
  const standing = (told ?? []).filter((row) => !row.withdrawn_at);
  const where = (row: LookUp) =>
    row.body.blocks?.length
      ? row.body.blocks.map((id) => blocks.find((b) => b.id === id)?.name ?? "a block").join(", ")
      : "the whole site";
  if (!missing?.length && standing.length === 0) return null;
  return (
    <section aria-label="To look up" className="grid gap-2">
      <h2 className="text-xl">To look up</h2>
      {!missing?.length ? (
        <p className="text-sm text-soft">Nothing is left to look up for the open jobs.</p>
      ) : (
        <ul className="border-t-2 border-ink">
          {missing.map((row) => (
            <li
              key={row.block + row.check}
              className="flex flex-wrap items-center justify-between gap-3 border-b border-rule py-1"
            >
              <span>
                <b>{row.block_name}</b>: {label(row.kind)}{" "}
                <span className="text-sm text-soft">
                  for {row.jobs} {row.jobs === 1 ? "job" : "jobs"} of {row.trees}{" "}
                  {row.trees === 1 ? "tree" : "trees"}
                </span>
              </span>
              {mayDecide && (
                <Button
                  aria-label={`Tell the ${label(row.kind)} of ${row.block_name}`}
                  onClick={() => setAsked(row)}
                >
                  Tell it for the block
                </Button>
              )}
            </li>
          ))}
        </ul>
      )}
      {standing.length > 0 && (
        <details>
          <summary className="target text-sm text-slate underline">
            Told of many trees: {standing.length}
          </summary>
          <ul className="border-t border-rule text-sm">
            {standing.map((row) => (
              <li key={row.id} className="flex flex-wrap items-center gap-x-3 border-b border-rule py-1">
                <b>{label(row.body.evidence.what ?? "")}</b> {where(row)}, {day(row.body.on)}
                <span className="text-soft">
                  {[row.body.evidence.result, row.body.evidence.by, row.body.evidence.reference, row.made_by]
                    .filter(Boolean)
                    .join(", ")}
                </span>
                {mayDecide && (
                  <Button weight="quiet" onClick={() => setLeaving(row)}>
                    Withdraw
                  </Button>
                )}
              </li>
            ))}
          </ul>
        </details>
      )}
      {wrong && <Notice kind="refused">{wrong}</Notice>}
      <Dialog
        open={asked !== null}
        onOpenChange={() => setAsked(null)}
        title={asked ? `${label(asked.kind)}, ${asked.block_name}` : ""}
      >
        {asked && (
          <EvidenceForm
            vocabulary={vocabulary}
            kinds={[asked.kind]}
            onSave={(evidence) => void make(evidence, [asked.block]).then((kept) => kept && setAsked(null))}
          />
        )}
      </Dialog>
      <Dialog
        open={leaving !== null}
        onOpenChange={() => setLeaving(null)}
        title="Withdraw what was told of many trees"
      >
        <div className="grid gap-3">
          <p className="text-sm">What was begun on it is marked; its checks stand open again.</p>
          <Field label="Reason" value={reason} onChange={(e) => setReason(e.target.value)} />
          <Button
            weight="warn"
            disabled={!reason.trim()}
            onClick={() =>
              leaving &&
              void withdraw(leaving.id, reason).then((kept) => {
                if (kept) {
                  setLeaving(null);
                  setReason("");
                }
              })
            }
          >
            Withdraw
          </Button>
        </div>
      </Dialog>
    </section>
  );
}
