import { inWords } from "@/shared/dates";
import type { Seen } from "@/shared/records/draft";
import type { Vocabulary } from "@/shared/records/reads";
import { Term } from "@/shared/terms/Term";
import { Notice } from "@/shared/ui";
import type { Answer } from "./naming";
import { Tally } from "./Tally";

interface Props {
  answer: Answer;
  looks: Seen[];
  vocabulary: Vocabulary;
  label: (character: string) => string;
  onComeBack: ((words: string) => void) | undefined;
}

/** What a name leaves open: samples, contradictions, what it is not yet separated from, when to revisit, cautions. */
export function WhatElse({ answer, looks, vocabulary, label, onComeBack }: Props) {
  const observation = (id: string | number) => looks.find((l) => l.id === id);
  const comeBackInWords = (c: Answer["come_back"][number]) =>
    `from ${inWords(c.from, false)} to ${inWords(c.to, false)}: ${label(c.character).toLowerCase()}`;
  return (
    <>
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
      {[...new Set(answer.cautions.filter((c) => !c.hazard).map((c) => c.text))].slice(0, 3).map((text) => (
        <Notice key={text} kind="caution">
          {text}
        </Notice>
      ))}
    </>
  );
}
