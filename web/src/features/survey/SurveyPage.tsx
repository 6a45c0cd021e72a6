import { Check } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { today } from "@/shared/dates";
import { reaches, useMember } from "@/shared/member";
import { useOutboxCounts, useSave } from "@/shared/outbox";
import {
  AFTER_NAME,
  type Change,
  type Draft,
  emptyDraft,
  photographsOf,
  saysSomething,
  useDraft,
  visitOf,
} from "@/shared/records/draft";
import { entryOf } from "@/shared/records/entries";
import { type Row, type Site, useBlocks, usePlan, usePlant, useSites } from "@/shared/records/reads";
import { stemDone, useRound } from "@/shared/round/round";
import { useShortcuts } from "@/shared/shortcuts";
import { InRegion } from "@/shared/terms/Term";
import { Button, Notice, PageState } from "@/shared/ui";
import { OlderDraft } from "@/shared/visit/OlderDraft";
import { rememberAnswers } from "./lastAnswers";
import { PickTree } from "./PickTree";
import { ReadBack } from "./ReadBack";
import { Saved } from "./Saved";
import { type Step, stepsOf } from "./steps";
import { WetLock } from "./WetLock";

export interface StepProps {
  draft: Draft;
  row: Row | undefined;
  change: (part: Change) => Promise<unknown>;
  next: () => void;
  /** conventions of the site; unknown until it has been read */
  site: Site | undefined;
  /** reads an entered number back, large */
  say: (words: string) => void;
  /** puts the focus where Enter goes on */
  focusNext: () => void;
}

/** Stem by stem: one thing at a time, all of it on the device until it is kept. */
export function SurveyPage() {
  const { plantId } = useParams();
  const member = useMember();
  if (!reaches(member, "surveyor"))
    return (
      <div className="p-4">
        <Notice>Visits are recorded by surveyors and stewards; your role is {member.role}.</Notice>
      </div>
    );
  return plantId ? <Sheet key={plantId} plantId={plantId} /> : <PickTree />;
}

function Sheet({ plantId }: { plantId: string }) {
  const member = useMember();
  const save = useSave();
  const navigate = useNavigate();
  const [params] = useSearchParams();
  const { draft, older, put, change, drop } = useDraft(plantId);
  const wantsPlant = draft === null && !params.get("block");
  const plant = usePlant(wantsPlant ? plantId : undefined);
  const blocks = useBlocks();
  const sites = useSites();
  const [keptId, setKeptId] = useState<string | null>(null);
  const [said, setSaid] = useState<{ words: string; at: number } | null>(null);
  const nextButton = useRef<HTMLButtonElement>(null);
  const round = useRound();
  const blockId = draft?.block ?? params.get("block") ?? plant.data?.block_id;
  const plan = usePlan(blockId);
  const block = blocks.data?.find((b) => b.id === blockId);
  const site = sites.data?.find((g) => g.id === block?.site_id);
  const row = plan.rows.find((r) => r.id === plantId);
  const known = plan.data !== undefined || plan.isError;

  useEffect(() => {
    if (draft !== null || !block || !known || keptId) return;
    const planted = ["street", "garden", "park", "hedge"].includes(block.setting ?? "");
    void put(
      emptyDraft(
        plantId,
        block.id,
        today(member),
        block.setting ?? "unknown",
        plant.data?.origin ?? (planted ? "planted" : "unknown"),
        plant.data?.visits[0]?.stage ?? "mature",
      ),
    );
  }, [draft, block, known, keptId, put, plantId, member, plant.data]);

  useShortcuts([{ key: "Enter", label: "go on", run: () => nextButton.current?.click() }]);

  if (keptId) return <Saved visitId={keptId} plantId={plantId} row={row} rows={plan.rows} />;
  if (older) return <OlderDraft error={older} />;
  if (!draft) return <PageState error={plant.error ?? blocks.error} what="this tree" />;
  const steps = stepsOf(site?.survey_steps ?? [], round && round.block === blockId ? round.mode : "whole");
  // a name that was just taken by looks leads to whatever follows the name on this site's sheet
  const named = steps.findIndex((s) => s.id === "name");
  const step =
    draft.step === AFTER_NAME
      ? named + 1
      : Math.max(
          0,
          steps.findIndex((s) => s.id === draft.step),
        );
  const { View, label } = steps[step] as (typeof steps)[number];
  const go = (to: number) => void change({ step: steps[to]?.id ?? "keep" });
  const focusNext = () => nextButton.current?.focus();
  const saveVisit = async () => {
    if (!site) return; // without its conventions a figure could not say how it was taken
    await save(
      "visit",
      visitOf(draft, member, site),
      photographsOf(draft).map(({ entry, blob }) => ({ id: entry.id, sha256: entry.body.sha256, blob })),
    );
    rememberAnswers(draft);
    stemDone(plantId);
    setKeptId(draft.id);
    await drop();
  };
  const last = step === steps.length - 1;
  const done = steps.filter((s) => s.id !== "where" && s.done(draft)).length;
  const empty = !saysSomething(draft);
  const tag = entryOf(draft, "tag")?.body.number || row?.tag;
  return (
    <div className="grid min-h-dvh grid-rows-[auto_1fr_auto] md:h-dvh">
      <ReadBack said={said} />
      <header className="border-b border-rule">
        <div className="flex items-start justify-between gap-3 px-4 py-2">
          <div>
            <p className="figure text-2xl font-semibold">{tag ? `Tag ${tag}` : "No tag"}</p>
            <p className="text-sm text-soft">{block?.name ?? "…"}</p>
          </div>
          <div className="text-right">
            <p className="font-bold">
              Step {step + 1} of {steps.length}
            </p>
            <p className="hidden text-sm text-soft md:block">
              {done === 0 ? "nothing recorded yet" : `${done} recorded`}
            </p>
            {round?.block === blockId && (
              <p className="text-sm text-soft">{round?.done.length} done on this round</p>
            )}
            <OutboxLine />
          </div>
        </div>
        <Progress steps={steps} at={step} draft={draft} />
        <div className="flex items-center justify-between bg-sheet px-4 py-2">
          <p className="latin text-xl">
            {entryOf(draft, "determination")?.body.entered ?? (row?.name || "not named")}
          </p>
          <span className="flex gap-4">
            <WetLock />
            <Link
              to={`/map/${draft.block}`}
              className="target inline-flex items-center text-sm text-slate underline"
            >
              Leave (draft is saved)
            </Link>
          </span>
        </div>
      </header>
      <div className="md:grid md:grid-cols-[13rem_1fr] md:overflow-hidden">
        <nav aria-label="Steps" className="hidden border-r border-rule p-2 md:block">
          <ol>
            {steps.map((s, i) => (
              <li key={s.label}>
                <button
                  type="button"
                  aria-current={i === step ? "step" : undefined}
                  onClick={() => go(i)}
                  className={`min-h-[53px] w-full px-3 text-left ${i === step ? "bg-lichen font-bold" : ""}`}
                >
                  {s.label}
                  {s.done(draft) && (
                    <span className="ml-1 text-moss">
                      <Check className="inline" size={18} aria-hidden />
                      <span className="sr-only"> done</span>
                    </span>
                  )}
                </button>
              </li>
            ))}
          </ol>
        </nav>
        <section className="overflow-y-auto p-4 md:p-6" aria-label={label}>
          <div className="mx-auto max-w-2xl">
            <h1 className="mb-3 text-2xl">{label}</h1>
            <InRegion region={site?.region}>
              <View
                key={draft.step}
                draft={draft}
                row={row}
                change={change}
                next={() => go(step + 1)}
                site={site}
                say={(words) => setSaid({ words, at: Date.now() })}
                focusNext={focusNext}
              />
            </InRegion>
          </div>
        </section>
      </div>
      <footer className="sticky bottom-0 z-20 flex gap-2 border-t border-rule bg-paper p-3">
        <Button onClick={() => (step === 0 ? navigate(-1) : go(step - 1))}>Back</Button>
        {last ? (
          <Button
            ref={nextButton}
            weight="act"
            className="flex-1"
            disabled={!site || empty}
            onClick={() => void saveVisit()}
          >
            Save visit
          </Button>
        ) : (
          <Button ref={nextButton} weight="act" className="flex-1" onClick={() => go(step + 1)}>
            {steps[step + 1]?.label} ›
          </Button>
        )}
      </footer>
    </div>
  );
}

/** The steps side by side: done, open, and where one is. Drawn, because inline styles are not allowed by the page's policy. */
function Progress({ steps, at, draft }: { steps: Step[]; at: number; draft: Draft }) {
  return (
    <svg
      className="block h-2 w-full"
      viewBox={`0 0 ${steps.length * 10} 2`}
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      {steps.map((s, i) => (
        <rect
          key={s.id}
          x={i * 10 + 0.3}
          width="9.4"
          height="2"
          fill={`var(--color-${i === at ? "ink" : s.done(draft) ? "moss" : "rule"})`}
        />
      ))}
    </svg>
  );
}

function OutboxLine() {
  const { kept, sent, needsAttention } = useOutboxCounts();
  return (
    <p className="text-sm text-soft" role="status">
      {kept} saved on this device, {sent} sent
      {needsAttention ? <strong className="text-rust">, {needsAttention} needs attention</strong> : ""}
    </p>
  );
}
