import { Offline, type Schemas } from "@/api/client";
import type { Seen } from "@/shared/records/draft";
import type { BodyOf } from "@/shared/records/entries";
import type { Vocabulary } from "@/shared/records/reads";
import { Notice, PageState } from "@/shared/ui";
import { Hazards } from "./Hazards";
import { OrganList } from "./OrganList";
import { Question } from "./Question";
import type { useNaming } from "./useNaming";

interface Props {
  naming: ReturnType<typeof useNaming>;
  vocabulary: Vocabulary;
  /** the character that is asked about, picked or suggested */
  current: string | null;
  organ: string | null;
  weighed: Seen[];
  leavesDown: boolean;
  onAnswer: (look: BodyOf<"observation">) => void;
  onAsk: (character: string | null) => void;
}

/** The question at hand; or the characters of an organ to pick from; or that nothing more is worth a look. */
export function Observation(props: Props) {
  const { naming, vocabulary, current, organ, weighed, leavesDown, onAnswer, onAsk } = props;
  const { looks, withheld } = naming;
  const best = looks[0]?.character ?? null;
  const character = vocabulary.characters.find((c) => c.id === current);
  const done = new Set(weighed.map((l) => l.character));
  return (
    <>
      {naming.error instanceof Offline && (
        <Notice kind="caution" title="Offline.">
          Observations are saved on this device; candidates are ranked again when you are online.
        </Notice>
      )}
      {naming.error && !(naming.error instanceof Offline) && (
        <Notice kind="refused">{naming.error.message}</Notice>
      )}
      <Hazards
        key={`hazards of ${current ?? organ ?? ""}`}
        cautions={naming.standing?.cautions ?? []}
        vocabulary={vocabulary}
        first={withheld.length > 0 ? looks[0]?.character : undefined}
        asked={current}
        weighing={!naming.asked}
        onAsk={onAsk}
      />
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
          onAnswer={onAnswer}
          onSkip={() => onAsk(nextAfter(looks, character.id))}
        />
      ) : organ ? (
        <OrganList
          key={organ}
          vocabulary={vocabulary}
          organ={organ}
          done={done}
          looks={looks}
          withheld={withheld}
          onAsk={onAsk}
        />
      ) : naming.asked ? (
        <p className="py-6 text-lg">
          No further look that can be made now would change much. Accept the name supported, or pick what is
          in the hand.
        </p>
      ) : !naming.error ? (
        <PageState error={null} what="the next observation" />
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
    </>
  );
}

/** The suggestion after the one skipped. */
function nextAfter(looks: Schemas["NextLook"][], skipped: string): string | null {
  const at = looks.findIndex((l) => l.character === skipped);
  return looks[at + 1]?.character ?? null;
}
