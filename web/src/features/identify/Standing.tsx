import { useState } from "react";
import { Link } from "react-router";
import { inWords } from "@/shared/dates";
import type { Seen } from "@/shared/records/draft";
import { nameShown } from "@/shared/records/labels";
import type { Vocabulary } from "@/shared/records/reads";
import { Term } from "@/shared/terms/Term";
import { Button, Field, Notice } from "@/shared/ui";
import { AnotherName } from "./AnotherName";
import { Balance } from "./Balance";
import type { Answer } from "./naming";
import { Tally } from "./Tally";

interface Props {
  answer: Answer;
  vocabulary: Vocabulary;
  looks: Seen[];
  /** the day of the visit */
  on: string;
  block: string;
  mayAccept: boolean;
  onAccept: (taxon: string, name: string, probability: number | undefined, reason?: string) => void;
  onComeBack: ((words: string) => void) | undefined;
}

const percent = (p: number) => (p > 0.995 ? "over 99 %" : `${Math.round(p * 100)} %`);

/** The honest name and what stands behind it: candidates, balance, what is not told apart, when to come back. */
export function Standing({ answer, vocabulary, looks, on, block, mayAccept, onAccept, onComeBack }: Props) {
  const [other, setOther] = useState<string | null>(null);
  const [reason, setReason] = useState("");
  const s = answer.supported;
  const label = (cid: string) => vocabulary.characters.find((c) => c.id === cid)?.label ?? cid;
  const listed = answer.candidates.filter((c) => c.rank !== "unlisted");
  const rivals = listed.slice(0, 3).map((c) => c.taxon); // a column each; four do not fit a small screen
  const chosen = answer.candidates.find((c) => c.taxon === other);
  const comeBackInWords = (c: Answer["come_back"][number]) =>
    `from ${inWords(c.from, false)} to ${inWords(c.to, false)}: ${label(c.character).toLowerCase()}`;
  const best = answer.candidates[0];
  const observation = (id: string | number) => looks.find((l) => l.id === id);
  return (
    <>
      {/* what changed, in a few words; the whole panel read out again would drown them */}
      <p role="status" className="sr-only">
        {best ? `Best match ${best.name}, ${percent(best.probability)}` : "No candidates"}
        {s ? `; name supported: ${nameShown(s.name, s.rank)}` : ""}
      </p>
      <div className="grid content-start gap-4 p-4 lg:overflow-y-auto">
        <div>
          <p className="text-sm">
            <Term id="honest_rank">Name supported now</Term>
          </p>
          {s ? (
            <>
              <p className="latin text-3xl leading-tight">{nameShown(s.name, s.rank)}</p>
              <p>
                {s.rank}, {percent(s.probability)}
                {s.organs.length > 0 &&
                  ` · ${s.one_organ ? `${s.organs[0]} only` : `${s.organs.join(", ")} agree`}`}
              </p>
            </>
          ) : (
            <p className="text-xl">None yet.</p>
          )}
          {s?.stop_at && <p className="mt-1 text-sm">Named no further: {s.stop_at}</p>}
          {answer.either && (
            <p className="mt-1">
              Either <span className="latin">{answer.either.taxa[0]?.name}</span> or{" "}
              <span className="latin">{answer.either.taxa[1]?.name}</span>,{" "}
              {percent(answer.either.probability)} together: {answer.either.why}.
            </p>
          )}
        </div>
        <ol className="border-t-2 border-ink pt-2">
          {answer.candidates.slice(0, 5).map((c) => (
            <li key={c.taxon} className="py-1">
              <button
                type="button"
                className="w-full min-h-[53px] text-left"
                aria-pressed={other === c.taxon}
                onClick={() => setOther(other === c.taxon ? null : c.taxon)}
                disabled={c.rank === "unlisted"}
              >
                <span className="flex items-baseline justify-between gap-2">
                  <span className="latin text-lg leading-tight">{c.name}</span>
                  <span className="font-bold">{percent(c.probability)}</span>
                </span>
                <span className="text-sm text-soft">{c.common}</span>
                <svg
                  className="mt-1 block h-2 w-full"
                  viewBox="0 0 100 2"
                  preserveAspectRatio="none"
                  aria-hidden="true"
                >
                  <rect width="100" height="2" fill="var(--color-rule)" />
                  <rect width={100 * c.probability} height="2" fill="var(--color-moss)" />
                </svg>
              </button>
            </li>
          ))}
        </ol>
        {answer.ruled_out.length > 0 && (
          <details>
            <summary className="min-h-[53px] cursor-pointer text-sm text-soft">
              Ruled out: {answer.ruled_out.length} genera by a single observation
            </summary>
            <ul className="text-sm">
              {answer.ruled_out.map((r) => (
                <li key={r.taxon}>
                  <span className="latin">{r.name}</span> by{" "}
                  {label(observation(r.observation)?.character ?? "").toLowerCase()}
                </li>
              ))}
            </ul>
          </details>
        )}
        {answer.candidates.length > 2 && (
          <p className="text-sm text-soft">Press a name to weigh the best match against it.</p>
        )}
        <Balance answer={answer} against={other ?? undefined} label={label} />
        {rivals.length > 1 && (
          <Link
            to={`/side-by-side?taxa=${rivals.join(",")}&on=${on}${block ? `&block=${block}` : ""}`}
            className="min-h-[53px] content-center text-slate underline"
          >
            See {rivals.length === 2 ? "both" : `these ${rivals.length}`} side by side
          </Link>
        )}
        {answer.samples
          .filter((sample) => sample.settles)
          .map((sample) => (
            <details key={sample.observation}>
              <summary className="min-h-[53px] cursor-pointer text-sm">
                <strong>{label(sample.character)}</strong>: mean {sample.mean.toFixed(1)} of {sample.n}.{" "}
                {sample.settles?.says}
              </summary>
              <Tally
                sample={sample}
                values={observation(sample.observation)?.values ?? []}
                whole={vocabulary.characters.find((c) => c.id === sample.character)?.kind === "count"}
                name={(t) => vocabulary.taxa.find((v) => v.id === t)?.name ?? t}
              />
            </details>
          ))}
        {answer.contradictions.map((c) => (
          <Notice key={c.why} kind="refused" title="Look again.">
            {c.why}
          </Notice>
        ))}
        {answer.fit.fits === false && (
          <Notice kind="caution">
            Even the best match's own description would hardly give these observations. It may not be in this
            list.
          </Notice>
        )}
        {answer.not_yet_told_from.length > 0 && (
          <div>
            <h3 className="font-sans text-sm font-bold">
              <Term id="separating_character">Not yet separated from</Term>
            </h3>
            <ul className="text-sm">
              {answer.not_yet_told_from.slice(0, 4).map((r) => (
                <li key={r.taxon}>
                  <span className="latin text-base">{r.name}</span>
                  {r.looks.length > 0 && (
                    <span className="text-soft">
                      {" "}
                      by {r.looks.slice(0, 3).map(label).join("; ").toLowerCase()}
                    </span>
                  )}
                </li>
              ))}
            </ul>
          </div>
        )}
        {answer.by_origin?.differ && (
          <p className="text-sm">
            Origin decides here: wild, <span className="latin text-base">{answer.by_origin.wild.name}</span>{" "}
            leads; planted, <span className="latin text-base">{answer.by_origin.planted.name}</span>.
          </p>
        )}
        {answer.season.note && <p className="text-sm text-soft">{answer.season.note}</p>}
        {answer.come_back.length > 0 && (
          <div className="text-sm">
            <h3 className="font-sans font-bold">
              <Term id="revisit">Revisit</Term>
            </h3>
            <ul>
              {answer.come_back.slice(0, 3).map((c) => (
                <li key={c.character}>{comeBackInWords(c)}</li>
              ))}
            </ul>
            {onComeBack && (
              <button
                type="button"
                className="min-h-[53px] text-slate underline"
                onClick={() => onComeBack(answer.come_back.slice(0, 3).map(comeBackInWords).join("; "))}
              >
                Note it on this visit
              </button>
            )}
          </div>
        )}
        {[...new Set(answer.cautions.map((c) => c.text))].slice(0, 3).map((text) => (
          <Notice key={text} kind="caution">
            {text}
          </Notice>
        ))}
      </div>
      {/* above the places on a phone, where a plant without a stem is named */}
      <div
        className={`fixed inset-x-0 z-20 grid ${onComeBack ? "bottom-0" : "bottom-14 md:bottom-0"} gap-2 border-t border-rule bg-sheet px-4 py-3 lg:static`}
      >
        <p className="lg:hidden">
          {s ? (
            <span className="latin text-xl">{nameShown(s.name, s.rank)}</span>
          ) : (
            <>
              No name supported yet; <span className="latin">{answer.candidates[0]?.name}</span> leads,{" "}
              {percent(answer.candidates[0]?.probability ?? 0)}
            </>
          )}{" "}
          {s && <strong>{percent(s.probability)}</strong>}
        </p>
        {mayAccept && chosen && chosen.taxon !== s?.taxon && (
          <>
            <Field
              label="Why another name than the one supported"
              value={reason}
              onChange={(e) => setReason(e.target.value)}
              maxLength={300}
            />
            <Button
              weight="act"
              disabled={!reason.trim()}
              onClick={() => onAccept(chosen.taxon, chosen.name, chosen.probability, reason.trim())}
            >
              Accept {chosen.name}
            </Button>
          </>
        )}
        {mayAccept && s && (!chosen || chosen.taxon === s.taxon) && (
          <Button weight="act" onClick={() => onAccept(s.taxon, nameShown(s.name, s.rank), s.probability)}>
            Accept {nameShown(s.name, s.rank)}
          </Button>
        )}
        {mayAccept && <AnotherName answer={answer} vocabulary={vocabulary} onAccept={onAccept} />}
      </div>
    </>
  );
}
