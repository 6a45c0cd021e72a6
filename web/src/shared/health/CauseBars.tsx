import { Link } from "react-router";
import { HARM_WORDS, harmClass } from "./harm";
import type { HealthAnswer } from "./healthCase";

const STANDING = {
  possible: "",
  suspicion: "suspicion",
  probable: "probable",
  confirmed: "confirmed",
} as const;
const shown = (p: number) => (p >= 0.995 ? "over 99 %" : p < 0.01 ? "under 1 %" : `${Math.round(100 * p)} %`);

/** What it may be, best first, with the rest: normal, nothing wrong, unknown. */
export function CauseBars({ answer, most = 5 }: { answer: HealthAnswer; most?: number }) {
  const rest = [
    { id: "normal", label: "Normal for the season", p: answer.normal },
    { id: "nothing", label: "Nothing wrong", p: answer.nothing_wrong },
    { id: "unknown", label: "Unknown", p: answer.unknown },
  ].filter((r) => r.p >= 0.01);
  return (
    <ol>
      {answer.candidates.slice(0, most).map((c) => (
        <li key={c.agent} className="py-1">
          <span className="flex items-baseline justify-between gap-2">
            <Link
              to={`/health/causes/${c.agent}`}
              className="font-bold text-slate underline underline-offset-4"
            >
              {c.name}
            </Link>
            <span className="font-bold tabular-nums">{shown(c.probability)}</span>
          </span>
          <span className="flex justify-between gap-2 text-sm">
            <span className={harmClass(c.class)}>{HARM_WORDS[c.class]}</span>
            <span className="text-soft">{STANDING[c.standing]}</span>
          </span>
          <Bar of={c.probability} />
        </li>
      ))}
      {rest.map((r) => (
        <li key={r.id} className="py-1 text-soft">
          <span className="flex justify-between gap-2">
            <span>{r.label}</span>
            <span className="tabular-nums">{shown(r.p)}</span>
          </span>
          <Bar of={r.p} quiet />
        </li>
      ))}
    </ol>
  );
}

function Bar({ of, quiet = false }: { of: number; quiet?: boolean }) {
  return (
    <svg
      className="mt-1 block h-1.5 w-full"
      viewBox="0 0 100 2"
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      <rect width="100" height="2" fill="var(--color-rule)" />
      <rect width={100 * of} height="2" fill={quiet ? "var(--color-soft)" : "var(--color-moss)"} />
    </svg>
  );
}
