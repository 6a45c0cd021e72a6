import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { newId } from "@/shared/ids";
import { useMember } from "@/shared/member";
import { AFTER_NAME, type Change, type Draft, observationsWeighed, withOne } from "@/shared/records/draft";
import { type BodyOf, entriesOf, entryOf, withoutEntry } from "@/shared/records/entries";
import type { Site, Vocabulary } from "@/shared/records/reads";
import { useSeason } from "@/shared/records/useSeason";
import { useShortcuts } from "@/shared/shortcuts";
import { EarlierObservations } from "./EarlierObservations";
import { IdentifyHeader } from "./IdentifyHeader";
import { Observation } from "./Observation";
import { ObservationsSoFar } from "./ObservationsSoFar";
import { ORGAN_KEYS, Organs } from "./Organs";
import { Standing } from "./Standing";
import { useNaming, withObservation } from "./useNaming";

interface IdentifyProps {
  draft: Draft;
  change: (part: Change) => Promise<unknown>;
  vocabulary: Vocabulary;
  site: Site | undefined;
  loose: boolean;
  where: string;
  tag: string;
}

/** One plain question at a time; what is in the hand on the left, the honest name on the right. */
export function Identify({ draft, change, vocabulary, site, loose, where, tag }: IdentifyProps) {
  const navigate = useNavigate();
  const member = useMember();
  const [asked, setAsked] = useState<string | null>(null);
  const [organ, setOrgan] = useState<string | null>(null);
  const season = useSeason(draft.block, draft.local_date);
  const naming = useNaming(draft, site);
  const { standing } = naming;
  const leavesDown = (season.data?.find((s) => s.organ === "leaf")?.now ?? 1) < 0.25;
  const weighed = observationsWeighed(draft);
  // what was suggested before the last answer is not suggested again while the next is weighed
  const current = asked ?? (organ || !naming.asked ? null : (naming.looks[0]?.character ?? null));

  // a new question starts at its top, also where the last one was answered far down the page
  const look = useRef<HTMLElement>(null);
  useEffect(() => {
    if (!current || !look.current) return;
    look.current.scrollTop = 0;
    if (look.current.getBoundingClientRect().top < 0) look.current.scrollIntoView();
  }, [current]);
  const record = async (look: BodyOf<"observation">) => {
    const entry = { id: newId(), kind: "observation", body: look } as const;
    naming.weigh(entry);
    // before the writing, which takes a moment: whoever picks the next organ meanwhile keeps it
    setAsked(null);
    setOrgan(null);
    await change((now) => ({ entries: withObservation(now.entries, entry) }));
  };
  const undo = (id: string) =>
    change((now) => ({
      entries: withoutEntry(now.entries, id),
      earlier: now.earlier?.filter((l) => l.id !== id),
    }));
  const pickOrgan = (o: string) => {
    setOrgan(o === organ ? null : o);
    setAsked(null);
  };
  const undoLast = () => {
    const last = entryOf(draft, "observation");
    if (last) void undo(last.id);
  };
  const takeNext = () => {
    setOrgan(null);
    setAsked(null);
  };
  useShortcuts([
    ...vocabulary.organs.flatMap((o) => {
      const key = ORGAN_KEYS[o.id];
      return key ? [{ key, label: o.label, run: () => pickOrgan(o.id) }] : [];
    }),
    { key: "Enter", label: "take the next observation", run: takeNext },
    { key: "z", label: "undo the last observation", run: undoLast },
  ]);
  const accept = async (
    taxon: string,
    supported: string,
    probability: number | undefined,
    reason?: string,
  ) => {
    const rivals = standing?.not_yet_told_from.map((r) => r.taxon).slice(0, 20) ?? [];
    const name: BodyOf<"determination"> = {
      entered: supported,
      taxon,
      ...(probability === undefined ? {} : { probability }),
      ...(reason ? { reason } : {}),
      not_separated_from: rivals,
      ...(standing ? { flora: standing.flora, engine: standing.engine } : {}),
    };
    await change((now) => ({ ...withOne(now, "determination", name), step: AFTER_NAME }));
    if (!loose) navigate(`/survey/${draft.plant}`);
  };
  const noteComeBack = (words: string) =>
    void change((now) => {
      const before = entryOf(now, "note")?.body.text;
      return withOne(now, "note", { text: [before, `Revisit ${words}.`].filter(Boolean).join(" ") });
    });
  return (
    <div className="grid min-h-dvh grid-rows-[auto_1fr] lg:h-dvh">
      <IdentifyHeader
        draft={draft}
        change={change}
        season={season.data}
        loose={loose}
        where={where}
        tag={tag}
        onVisit={() => navigate(`/survey/${draft.plant}`)}
      />
      <div className="grid lg:grid-cols-[14.5rem_1fr_19.5rem] lg:overflow-hidden">
        <section
          className="order-3 border-rule p-4 pb-64 lg:order-1 lg:overflow-y-auto lg:border-r lg:pb-4"
          aria-label="In the hand"
        >
          <Organs vocabulary={vocabulary} season={season.data} chosen={organ} onChoose={pickOrgan} />
          {!loose && !draft.earlier && entriesOf(draft, "observation").length === 0 && (
            <EarlierObservations plantId={draft.plant} onStart={(earlier) => void change({ earlier })} />
          )}
          <ObservationsSoFar
            observations={weighed}
            vocabulary={vocabulary}
            contradictions={standing?.contradictions ?? []}
            onUndo={(id) => void undo(id)}
            onChange={(cid) => setAsked(cid)}
          />
        </section>
        <section
          ref={look}
          className="order-1 scroll-mt-2 p-4 lg:order-2 lg:overflow-y-auto lg:px-6"
          aria-label="The observation"
        >
          <Observation
            naming={naming}
            vocabulary={vocabulary}
            current={current}
            organ={organ}
            weighed={weighed}
            leavesDown={leavesDown}
            onAnswer={(look) => void record(look)}
            onAsk={setAsked}
          />
        </section>
        <section
          className="order-2 border-rule bg-sheet lg:order-3 lg:grid lg:grid-rows-[1fr_auto] lg:overflow-hidden lg:border-l"
          aria-label="The name"
          aria-busy={naming.stale}
        >
          {standing ? (
            <Standing
              answer={standing}
              stale={naming.stale}
              vocabulary={vocabulary}
              looks={weighed}
              on={draft.local_date}
              block={draft.block}
              onAccept={accept}
              mayAccept={!loose && member.role !== "viewer"}
              onComeBack={loose ? undefined : noteComeBack}
            />
          ) : (
            <p className="p-4 text-soft">Candidates show here.</p>
          )}
        </section>
      </div>
    </div>
  );
}
