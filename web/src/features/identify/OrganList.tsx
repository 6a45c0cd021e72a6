import { useState } from "react";
import type { Schemas } from "@/api/client";
import type { Vocabulary } from "@/shared/records/reads";
import { useShortcuts } from "@/shared/shortcuts";
import { expectedOf } from "./Strength";

/** Every character of an organ, the most telling first. */
export function OrganList({
  vocabulary,
  organ,
  done,
  looks,
  withheld,
  onAsk,
}: {
  vocabulary: Vocabulary;
  organ: string;
  done: Set<string>;
  looks: Schemas["NextLook"][];
  withheld: Schemas["Withheld"][];
  onAsk: (id: string) => void;
}) {
  const gain = new Map(looks.map((l) => [l.character, l.gain_bits]));
  const held = new Set(withheld.map((w) => w.character));
  // the order stays as it was when the list opened: nothing moves under the finger when an answer comes in;
  // what is withheld is listed too, for the answer on its way may be the one that frees it
  const [characters] = useState(() =>
    vocabulary.characters
      .filter((c) => c.organ === organ)
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
                {held.has(c.id)
                  ? "withheld"
                  : done.has(c.id)
                    ? "looked at"
                    : gain.has(c.id)
                      ? expectedOf(gain.get(c.id) ?? 0)
                      : ""}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
