import type { Answer } from "./naming";
import { Strength, strengthOf } from "./Strength";

const MOST = 6;

/** Each observation as a weight on one of two arms, best match against a rival; the bars meet at one axis. */
export function Balance({
  answer,
  against,
  label,
}: {
  answer: Answer;
  against: string | undefined;
  label: (character: string) => string;
}) {
  const leader = answer.candidates[0];
  const rival = answer.candidates.find((c) => c.taxon === against && c !== leader) ?? answer.candidates[1];
  if (!leader || !rival) return null;
  // a candidate's bits are told against the leader: seen from the leader they change sign
  const rows = [...rival.for, ...rival.against]
    .map((r) => ({ ...r, bits: -r.bits }))
    .sort((a, b) => Math.abs(b.bits) - Math.abs(a.bits))
    .slice(0, MOST);
  if (rows.length === 0) return null;
  const most = Math.max(2, ...rows.map((r) => Math.abs(r.bits)));
  return (
    <figure aria-label={`Balance of ${leader.name} against ${rival.name}`}>
      <figcaption className="grid grid-cols-2 text-sm text-soft">
        <span>for {leader.common || leader.name}</span>
        <span className="text-right">for {rival.common || rival.name}</span>
      </figcaption>
      <ul>
        {rows.map((r) => {
          const length = (48 * Math.abs(r.bits)) / most;
          return (
            <li key={r.observation} className="py-0.5">
              <p className="flex items-center justify-between text-sm leading-tight">
                <span>{label(r.character)}</span>
                <Strength bits={r.bits} />
              </p>
              <svg
                className="block h-2.5 w-full"
                viewBox="0 0 100 4"
                preserveAspectRatio="none"
                role="img"
                aria-label={`${strengthOf(r.bits)}, for ${r.bits > 0 ? leader.name : rival.name}`}
              >
                <rect
                  x={r.bits > 0 ? 50 - length : 50}
                  width={length}
                  height="4"
                  fill={r.bits > 0 ? "var(--color-moss)" : "var(--color-rust)"}
                />
                <rect x="49.7" width="0.6" height="4" fill="var(--color-ink)" />
              </svg>
            </li>
          );
        })}
      </ul>
    </figure>
  );
}
