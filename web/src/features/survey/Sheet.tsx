import { Check } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { today } from "@/shared/dates";
import { useMember } from "@/shared/member";
import { AFTER_NAME, emptyDraft, saysSomething } from "@/shared/records/draft";
import { useBlocks, usePlan, usePlant, useSites, useVocabulary } from "@/shared/records/reads";
import { useDraft } from "@/shared/records/useDraft";
import { useRound } from "@/shared/round/round";
import { useShortcuts } from "@/shared/shortcuts";
import { InSite } from "@/shared/site/InSite";
import { TypedFields } from "@/shared/typed";
import { Button, PageState } from "@/shared/ui";
import { OlderDraft } from "@/shared/visit/OlderDraft";
import { OpenName } from "./OpenName";
import { ReadBack } from "./ReadBack";
import { Saved } from "./Saved";
import { SheetHeader } from "./SheetHeader";
import { type Step, stepsOf } from "./steps";
import { useLeave } from "./useLeave";
import { useSaveVisit } from "./useSaveVisit";

/** The sheet of one tree: its steps in the order of the site, and Save within reach from the first figure on. */
export function Sheet({ plantId }: { plantId: string }) {
  const navigate = useNavigate();
  const { draft, older, change, drop, block, blocks, site, plan, plant, vocabulary, sites } =
    useSheet(plantId);
  const [said, setSaid] = useState<{ words: string; at: number } | null>(null);
  const nextButton = useRef<HTMLButtonElement>(null);
  const round = useRound();
  const onRound = round && round.block === block?.id ? round : null;
  const { saveVisit, savedId, ahead } = useSaveVisit(draft, site, plan.rows, onRound);
  const { held, leave, question } = useLeave(draft, site);
  const typing = Object.values(draft?.typed ?? {}).some(Boolean);
  const empty = !draft || !(saysSomething(draft) || typing);
  const saving = () => void leave(() => void saveVisit());
  useShortcuts([
    { key: "Enter", label: "go on", run: () => nextButton.current?.click() },
    ...(empty ? [] : [{ key: "s", label: ahead ? "save, next tree" : "save the visit", run: saving }]),
  ]);
  const row = plan.rows.find((r) => r.id === plantId);
  if (savedId) return <Saved visitId={savedId} plantId={plantId} row={row} rows={plan.rows} />;
  if (older) return <OlderDraft older={older} onThrowAway={drop} />;
  if (!draft || !vocabulary.data || sites.isPending)
    return <PageState error={plant.error ?? blocks.error ?? vocabulary.error} what="this tree" />;
  const steps = stepsOf(site?.survey_steps ?? [], onRound ? onRound.mode : "whole", site?.sections ?? []);
  // a name that was just taken by observations leads to whatever follows the name on this site's sheet
  const named = steps.findIndex((s) => s.id === "name");
  const at = steps.findIndex((s) => s.id === draft.step);
  const step = draft.step === AFTER_NAME ? named + 1 : Math.max(0, at);
  const { View, label } = steps[step] as Step;
  const go = (to: number) => void leave(() => void change({ step: steps[to]?.id ?? "keep" }));
  const keep = (key: string, text: string) =>
    void change((now) => {
      const { [key]: _before, ...others } = now.typed ?? {};
      return { typed: text ? { ...others, [key]: text } : others };
    });
  const last = step === steps.length - 1;
  const saveLabel = ahead ? "Save, next tree" : "Save visit";
  return (
    <div className="grid min-h-dvh grid-rows-[auto_1fr_auto] md:h-dvh">
      <ReadBack said={said} />
      <SheetHeader draft={draft} row={row} place={block?.name} steps={steps} at={step} round={onRound} />
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
        <section className="overflow-y-auto px-4 py-2 md:p-6" aria-label={label}>
          <div className="mx-auto max-w-2xl">
            {step !== named && <OpenName draft={draft} site={site} onName={() => go(named)} />}
            <h1 className="mb-2 text-2xl md:mb-3">{label}</h1>
            <InSite site={site}>
              <TypedFields held={held} texts={{ ...draft.typed }} keep={keep}>
                <View
                  key={draft.step}
                  draft={draft}
                  row={row}
                  change={change}
                  next={() => go(step + 1)}
                  site={site}
                  say={(words) => setSaid({ words, at: Date.now() })}
                  focusNext={() => nextButton.current?.focus()}
                />
              </TypedFields>
            </InSite>
            {question}
          </div>
        </section>
      </div>
      <footer className="sticky bottom-0 z-20 flex gap-2 border-t border-rule bg-paper p-3">
        <Button onClick={() => (step === 0 ? void leave(() => void navigate(-1)) : go(step - 1))}>
          Back
        </Button>
        {/* one button on every step: a tap on it while the last step opens is not lost */}
        {(last || !empty) && (
          <Button
            ref={last ? nextButton : null}
            weight={last ? "act" : "plain"}
            className={last ? "flex-1" : ""}
            disabled={!site || empty}
            onClick={saving}
          >
            {saveLabel}
          </Button>
        )}
        {!last && (
          <Button ref={nextButton} weight="act" className="flex-1" onClick={() => go(step + 1)}>
            {steps[step + 1]?.label} ›
          </Button>
        )}
      </footer>
    </div>
  );
}

/** The draft of a tree with everything its sheet reads; a draft is begun where there is none. */
function useSheet(plantId: string) {
  const member = useMember();
  const [params] = useSearchParams();
  const { draft, older, put, change, drop } = useDraft(plantId);
  const blockInAddress = params.get("block");
  const plant = usePlant(draft === null && !blockInAddress ? plantId : undefined);
  const blocks = useBlocks();
  const sites = useSites();
  const vocabulary = useVocabulary(); // the units of what is typed are in it
  const blockId = draft?.block ?? blockInAddress ?? plant.data?.block_id;
  const plan = usePlan(blockId);
  const block = blocks.data?.find((b) => b.id === blockId);
  const site = sites.data?.find((g) => g.id === block?.site_id);
  const known = plan.data !== undefined || plan.isError;
  const begun = useRef(false);
  useEffect(() => {
    if (draft) begun.current = true;
    if (draft !== null || !block || !known || begun.current) return;
    if (!site && !sites.isError) return; // its day is the site's
    const planted = ["street", "garden", "park", "hedge"].includes(block.setting ?? "");
    void put(
      emptyDraft(
        plantId,
        block.id,
        today(member, site),
        block.setting ?? "unknown",
        plant.data?.origin ?? (planted ? "planted" : "unknown"),
        plant.data?.visits[0]?.stage ?? "mature",
      ),
    );
  }, [draft, block, site, sites.isError, known, put, plantId, member, plant.data]);
  return { draft, older, change, drop, block, blocks, site, sites, plan, plant, vocabulary };
}
