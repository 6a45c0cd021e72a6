import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { Offline, type Schemas } from "@/api/client";
import { inWords, today } from "@/shared/dates";
import { newId } from "@/shared/ids";
import { useMember } from "@/shared/member";
import {
  AFTER_NAME,
  type Change,
  caseOf,
  type Draft,
  emptyDraft,
  observationsWeighed,
  useDraft,
  withOne,
} from "@/shared/records/draft";
import {
  type BodyOf,
  type EntryIn,
  type EntryOf,
  entriesOf,
  entryOf,
  withEntry,
  withoutEntry,
} from "@/shared/records/entries";
import {
  type Site,
  useBlocks,
  usePlan,
  useSeason,
  useSites,
  useVocabulary,
  type Vocabulary,
} from "@/shared/records/reads";
import { SeasonRing } from "@/shared/season-ring/SeasonRing";
import { useShortcuts } from "@/shared/shortcuts";
import { Dialog, Notice, PageState, Select } from "@/shared/ui";
import { OlderDraft } from "@/shared/visit/OlderDraft";
import { WhereAndWhen } from "@/shared/visit/WhereAndWhen";
import { EarlierObservations } from "./EarlierObservations";
import { named, ranked } from "./naming";
import { ObservationsSoFar } from "./ObservationsSoFar";
import { ORGAN_KEYS, Organs } from "./Organs";
import { Question } from "./Question";
import { Standing } from "./Standing";
import { expectedOf } from "./Strength";

export type Answer = Schemas["AnswerToCase"];
const LOOSE = "loose"; // a plant that is no tree of the site: the draft is stored under this key

/** Name a plant: one plain question at a time, the honest name always in view. */
export function IdentifyPage() {
  const { plantId = LOOSE } = useParams();
  const member = useMember();
  const vocabulary = useVocabulary();
  const blocks = useBlocks();
  const sites = useSites();
  const { draft, older, put, change } = useDraft(plantId);
  const firstBlock = blocks.data?.[0];
  const plan = usePlan(draft?.block);

  useEffect(() => {
    if (draft === null && plantId === LOOSE && firstBlock)
      void put(
        emptyDraft(LOOSE, firstBlock.id, today(member), firstBlock.setting ?? "unknown", "unknown", "mature"),
      );
  }, [draft, plantId, firstBlock, put, member]);

  if (older) return <OlderDraft error={older} />;
  if (draft === null && plantId !== LOOSE)
    return (
      <div className="p-4">
        <Notice>No visit to this tree is open. Pick it on the map and press Visit.</Notice>
      </div>
    );
  if (!draft || !vocabulary.data)
    return <PageState error={vocabulary.error ?? blocks.error} what="the vocabulary" />;
  const block = blocks.data?.find((b) => b.id === draft.block);
  const site = sites.data?.find((g) => g.id === block?.site_id);
  const tag = entryOf(draft, "tag")?.body.number || plan.rows.find((r) => r.id === plantId)?.tag;
  return (
    <Identify
      draft={draft}
      change={change}
      vocabulary={vocabulary.data}
      site={site}
      loose={plantId === LOOSE}
      where={block?.name ?? ""}
      tag={tag ?? ""}
    />
  );
}

interface IdentifyProps {
  draft: Draft;
  change: (part: Change) => Promise<unknown>;
  vocabulary: Vocabulary;
  site: Site | undefined;
  loose: boolean;
  where: string;
  tag: string;
}

function Identify({ draft, change, vocabulary, site, loose, where, tag }: IdentifyProps) {
  const navigate = useNavigate();
  const member = useMember();
  const [asked, setAsked] = useState<string | null>(null);
  const [organ, setOrgan] = useState<string | null>(null);
  const kinds = useMemo(() => new Map(vocabulary.characters.map((c) => [c.id, c.kind])), [vocabulary]);
  const given = useMemo(() => caseOf(draft, site, kinds), [draft, site, kinds]);
  const season = useSeason(draft.block, draft.local_date);
  const client = useQueryClient();
  const answer = useQuery({ ...named(given), placeholderData: (before) => before });
  const ranking = useQuery({ ...ranked(given), enabled: answer.isPlaceholderData || answer.isPending });
  const standing = answer.isPlaceholderData ? (ranking.data ?? answer.data) : (answer.data ?? ranking.data);
  const caseWith = (body: BodyOf<"observation">) =>
    caseOf({ ...draft, entries: withObservation(draft.entries, body) }, site, kinds);
  /** Asks for the answer to the case with one look more, before the look is written: it is there when it is needed. */
  const ahead = (look: BodyOf<"observation">) => void client.prefetchQuery(named(caseWith(look)));
  const leavesDown = (season.data?.find((s) => s.organ === "leaf")?.now ?? 1) < 0.25;
  const best = answer.data?.next_looks[0]?.character ?? null;
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
    if (!client.getQueryData(named(caseWith(look)).queryKey))
      void client.prefetchQuery(ranked(caseWith(look)));
    ahead(look);
    await change((now) => ({ entries: withObservation(now.entries, look) }));
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
          {answer.error instanceof Offline && (
            <Notice kind="caution" title="Offline.">
              Observations are saved on this device; candidates are ranked again when you are online.
            </Notice>
          )}
          {answer.error && !(answer.error instanceof Offline) && (
            <Notice kind="refused">{answer.error.message}</Notice>
          )}
          {character ? (
            <Question
              key={character.id}
              character={character}
              vocabulary={vocabulary}
              suggested={character.id === best}
              look={answer.data?.next_looks.find((l) => l.character === character.id)}
              withheld={answer.data?.withheld.find((w) => w.character === character.id)?.why}
              previous={weighed.find((l) => l.character === character.id)}
              given={given}
              fallen={
                ["leaf", "needle", "spray"].includes(character.organ) &&
                character.id !== "leaf.arrangement" &&
                leavesDown
              }
              onAnswer={record}
              onLikely={ahead}
              onSkip={() => setAsked(nextAfter(answer.data, character.id))}
            />
          ) : organ ? (
            <OrganList
              key={organ}
              vocabulary={vocabulary}
              organ={organ}
              done={done}
              answer={answer.data}
              onAsk={setAsked}
            />
          ) : answer.data ? (
            <p className="py-6 text-lg">
              No further look that can be made now would change much. Accept the name supported, or pick what
              is in the hand.
            </p>
          ) : !answer.error ? (
            <PageState error={null} what="the candidates" />
          ) : (
            <p className="py-4">Pick what is in the hand.</p>
          )}
          {answer.data && answer.data.withheld.length > 0 && character && (
            <div className="mt-6">
              <Notice kind="caution" title="Withheld:">
                {answer.data.withheld
                  .slice(0, 3)
                  .map((w) => vocabulary.characters.find((c) => c.id === w.character)?.label.toLowerCase())
                  .join("; ")}
                . {answer.data.withheld[0]?.why}
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

/** Of a plant named without a stem: where, when, of what age; and putting it aside for the next one. */
function Circumstances({ draft, change }: Pick<IdentifyProps, "draft" | "change">) {
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

/** The entries with one observation more, in the place of an earlier one of the same character. */
function withObservation(entries: EntryIn[], body: BodyOf<"observation">): EntryIn[] {
  const others = entries.filter((e) => !(e.kind === "observation" && e.body.character === body.character));
  return withEntry(others, { id: newId(), kind: "observation", body } satisfies EntryOf<"observation">);
}

/** The suggestion after the one skipped. */
function nextAfter(answer: Answer | undefined, skipped: string): string | null {
  const looks = answer?.next_looks ?? [];
  const at = looks.findIndex((l) => l.character === skipped);
  return looks[at + 1]?.character ?? null;
}

function OrganList({
  vocabulary,
  organ,
  done,
  answer,
  onAsk,
}: {
  vocabulary: Vocabulary;
  organ: string;
  done: Set<string>;
  answer: Answer | undefined;
  onAsk: (id: string) => void;
}) {
  const gain = new Map(answer?.next_looks.map((l) => [l.character, l.gain_bits]));
  const held = new Set(answer?.withheld.map((w) => w.character));
  // the order stays as it was when the list opened: nothing moves under the finger when an answer comes in
  const [characters] = useState(() =>
    vocabulary.characters
      .filter((c) => c.organ === organ && !held.has(c.id))
      .sort((a, b) => (gain.get(b.id) ?? 0) - (gain.get(a.id) ?? 0)),
  );
  useShortcuts(
    characters
      .slice(0, 10)
      .map((c, i) => ({ key: String((i + 1) % 10), label: c.label, run: () => onAsk(c.id) })),
  );
  return (
    <div>
      <h2 className="mb-2 text-2xl">{vocabulary.organs.find((o) => o.id === organ)?.label}</h2>
      <ul className="border-t border-rule">
        {characters.map((c, i) => (
          <li key={c.id} className="border-b border-rule">
            <button
              type="button"
              className="flex min-h-[53px] w-full items-center justify-between gap-3 text-left"
              onClick={() => onAsk(c.id)}
            >
              <span>
                <span aria-hidden="true" className="inline-block w-6 text-sm text-soft">
                  {i < 10 ? (i + 1) % 10 : ""}
                </span>
                {c.label} <span className="text-sm text-soft">{c.term}</span>
              </span>
              <span className="text-sm text-soft">
                {done.has(c.id) ? "looked at" : gain.has(c.id) ? expectedOf(gain.get(c.id) ?? 0) : ""}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
