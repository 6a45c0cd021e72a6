import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { Offline, type Schemas } from "@/api/client";
import { inWords } from "@/shared/dates";
import { useMember } from "@/shared/member";
import { AFTER_NAME, type Change, type Draft, observationsWeighed, withOne } from "@/shared/records/draft";
import { type BodyOf, entriesOf, entryOf, withoutEntry } from "@/shared/records/entries";
import type { Site, Vocabulary } from "@/shared/records/reads";
import { useSeason } from "@/shared/records/useSeason";
import { SeasonRing } from "@/shared/season-ring/SeasonRing";
import { useShortcuts } from "@/shared/shortcuts";
import { Notice, PageState } from "@/shared/ui";
import { Circumstances } from "./Circumstances";
import { EarlierObservations } from "./EarlierObservations";
import { ObservationsSoFar } from "./ObservationsSoFar";
import { OrganList } from "./OrganList";
import { ORGAN_KEYS, Organs } from "./Organs";
import { Question } from "./Question";
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
  const naming = useNaming(draft, site, vocabulary);
  const { standing, looks, withheld } = naming;
  const leavesDown = (season.data?.find((s) => s.organ === "leaf")?.now ?? 1) < 0.25;
  const best = looks[0]?.character ?? null;
  const weighed = observationsWeighed(draft);
  const done = new Set(weighed.map((l) => l.character));
  const current = asked ?? (organ ? null : best);
  const character = vocabulary.characters.find((c) => c.id === current);

  // a new question starts at its top, also where the last one was answered far down the page
  const look = useRef<HTMLElement>(null);
  const asking = character?.id;
  useEffect(() => {
    if (!asking || !look.current) return;
    look.current.scrollTop = 0;
    if (look.current.getBoundingClientRect().top < 0) look.current.scrollIntoView();
  }, [asking]);
  const record = async (look: BodyOf<"observation">) => {
    naming.askAhead(look);
    await change((now) => ({ entries: withObservation(now.entries, naming.entryFor(look)) }));
    // writing takes a moment: whoever has picked the next organ meanwhile keeps it
    setAsked((now) => (now === asked ? null : now));
    setOrgan((now) => (now === organ ? null : now));
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
  useShortcuts([
    ...vocabulary.organs
      .filter((o) => ORGAN_KEYS[o.id])
      .map((o) => ({ key: ORGAN_KEYS[o.id] as string, label: o.label, run: () => pickOrgan(o.id) })),
    {
      key: "Enter",
      label: "take the next observation",
      run: () => {
        setOrgan(null);
        setAsked(null);
      },
    },
    {
      key: "z",
      label: "undo the last observation",
      run: () => {
        const last = entryOf(draft, "observation");
        if (last) void undo(last.id);
      },
    },
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
  return (
    <div className="grid min-h-dvh grid-rows-[auto_1fr] lg:h-dvh">
      <header className="flex flex-wrap items-center justify-between gap-x-4 border-b border-rule px-4 py-2">
        <div className="flex flex-wrap items-baseline gap-x-6">
          <h1 className="text-2xl">{loose ? "Identify" : tag ? `Tag ${tag}` : "Identifying this tree"}</h1>
          <p>
            <strong>{where}</strong>{" "}
            <span className="text-soft">
              {draft.setting.replaceAll("_", " ")},{" "}
              {draft.origin === "unknown" ? "origin not known" : draft.origin}
            </span>
          </p>
          <p>
            <strong>{inWords(draft.local_date)}</strong> <span className="text-soft">{draft.stage}</span>
          </p>
        </div>
        <div className="flex items-center gap-3">
          {loose && <Circumstances draft={draft} change={change} />}
          {!loose && (
            <button
              type="button"
              className="target text-slate underline"
              onClick={() => navigate(`/survey/${draft.plant}`)}
            >
              To the visit
            </button>
          )}
          <span className="hidden sm:block">
            {season.data && <SeasonRing rows={season.data} date={draft.local_date} size={58} named={false} />}
          </span>
        </div>
      </header>
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
          {naming.error instanceof Offline && (
            <Notice kind="caution" title="Offline.">
              Observations are saved on this device; candidates are ranked again when you are online.
            </Notice>
          )}
          {naming.error && !(naming.error instanceof Offline) && (
            <Notice kind="refused">{naming.error.message}</Notice>
          )}
          {character ? (
            <Question
              key={character.id}
              character={character}
              vocabulary={vocabulary}
              suggested={character.id === best}
              look={looks.find((l) => l.character === character.id)}
              withheld={withheld.find((w) => w.character === character.id)?.why}
              previous={weighed.find((l) => l.character === character.id)}
              given={naming.given}
              fallen={
                ["leaf", "needle", "spray"].includes(character.organ) &&
                character.id !== "leaf.arrangement" &&
                leavesDown
              }
              onAnswer={record}
              onLikely={naming.askAhead}
              onSkip={() => setAsked(nextAfter(looks, character.id))}
            />
          ) : organ ? (
            <OrganList
              key={organ}
              vocabulary={vocabulary}
              organ={organ}
              done={done}
              looks={looks}
              withheld={withheld}
              onAsk={setAsked}
            />
          ) : naming.asked ? (
            <p className="py-6 text-lg">
              No further look that can be made now would change much. Accept the name supported, or pick what
              is in the hand.
            </p>
          ) : !naming.error ? (
            <PageState error={null} what="the candidates" />
          ) : (
            <p className="py-4">Pick what is in the hand.</p>
          )}
          {withheld.length > 0 && character && (
            <div className="mt-6">
              <Notice kind="caution" title="Withheld:">
                {withheld
                  .slice(0, 3)
                  .map((w) => vocabulary.characters.find((c) => c.id === w.character)?.label.toLowerCase())
                  .join("; ")}
                . {withheld[0]?.why}
              </Notice>
            </div>
          )}
        </section>
        <section
          className="order-2 border-rule bg-sheet lg:order-3 lg:grid lg:grid-rows-[1fr_auto] lg:overflow-hidden lg:border-l"
          aria-label="The name"
        >
          {standing ? (
            <Standing
              answer={standing}
              vocabulary={vocabulary}
              looks={weighed}
              on={draft.local_date}
              block={draft.block}
              onAccept={accept}
              mayAccept={!loose && member.role !== "viewer"}
              onComeBack={
                loose
                  ? undefined
                  : (words) =>
                      void change((now) => {
                        const before = entryOf(now, "note")?.body.text;
                        return withOne(now, "note", {
                          text: [before, `Come back ${words}.`].filter(Boolean).join(" "),
                        });
                      })
              }
            />
          ) : (
            <p className="p-4 text-soft">Candidates show here.</p>
          )}
        </section>
      </div>
    </div>
  );
}

/** The suggestion after the one skipped. */
function nextAfter(looks: Schemas["NextLook"][], skipped: string): string | null {
  const at = looks.findIndex((l) => l.character === skipped);
  return looks[at + 1]?.character ?? null;
}
