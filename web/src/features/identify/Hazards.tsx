import { useLayoutEffect, useRef, useState } from "react";
import type { Vocabulary } from "@/shared/records/reads";
import { Notice } from "@/shared/ui";
import { nameOf } from "./nameOf";
import type { Answer } from "./naming";

const MOST = 3;

interface Props {
  cautions: Answer["cautions"];
  vocabulary: Vocabulary;
  /** the look by eye that parts what burns skin from the rest */
  first: string | undefined;
  asked: string | null;
  /** what to look at next is still being weighed: the line for it may come */
  weighing: boolean;
  onAsk: (character: string) => void;
}

/** What could do harm here and is not ruled out yet, above the question; with the look by eye that rules it out. */
export function Hazards(now: Props) {
  // while a character is picked from a list, what comes in waits: a row must not move under the finger
  const [opened] = useState(now);
  const { cautions, vocabulary, first, asked, weighing, onAsk } = now.asked === null ? opened : now;
  const taxa = [...new Set(cautions.filter((c) => c.hazard).map((c) => c.taxon))];
  const [before, setBefore] = useState<string | undefined>(taxa[0]);
  // an answer that comes in moves nothing under the finger: the place stays as long as the question does
  const box = useRef<HTMLDivElement>(null);
  const [least, setLeast] = useState(0);
  const [worst] = taxa;
  useLayoutEffect(() => {
    setLeast((now) => Math.max(now, box.current?.firstElementChild?.clientHeight ?? 0));
    if (worst) setBefore(worst);
  }, [worst]);
  if (!worst && !before) return null;
  return (
    <div ref={box} className="mb-4" style={{ minHeight: least }}>
      {worst ? (
        <Live
          cautions={cautions}
          taxa={taxa}
          vocabulary={vocabulary}
          first={first}
          asked={asked}
          weighing={weighing}
          onAsk={onAsk}
        />
      ) : (
        <p className="text-soft">
          {nameOf(vocabulary, before ?? "")} is no longer likely by what was observed. Nothing here is
          declared safe to touch or eat.
        </p>
      )}
    </div>
  );
}

function Live({ cautions, taxa, vocabulary, first, asked, weighing, onAsk }: Props & { taxa: string[] }) {
  const [worst] = taxa;
  const rest = taxa.slice(1, MOST).map((t) => nameOf(vocabulary, t));
  const look = vocabulary.characters.find((c) => c.id === first);
  return (
    <Notice kind="caution" title={`Still possible: ${nameOf(vocabulary, worst ?? "")}.`}>
      {cautions.find((c) => c.taxon === worst)?.text}
      {rest.length > 0 && ` Also ${rest.join(", ")}${taxa.length > MOST ? " and others" : ""}.`}
      {look && asked === look.id && " The question below, by eye, tells it apart."}
      {!look && weighing && <span aria-hidden="true" className="block min-h-[53px]" />}
      {look && asked !== look.id && (
        <button
          type="button"
          className="block min-h-[53px] text-left text-slate underline"
          onClick={() => onAsk(look.id)}
        >
          First, by eye: {look.label.toLowerCase()}
        </button>
      )}
    </Notice>
  );
}
