import type { Vocabulary } from "@/shared/records/reads";
import type { Job } from "./siteWork";

export type CheckRow = Job["checks"][number];

interface Props {
  acts: string[];
  checks: CheckRow[];
  vocabulary: Vocabulary;
}

/** A job as acts, and what each asks: how it stands, who can close it, and by what. */
export function CheckRows({ acts, checks, vocabulary }: Props) {
  const kinds = vocabulary.evidence.flatMap((e) => e.kinds);
  const named = (list: { id: string; label: string }[], id: string) =>
    list.find((one) => one.id === id)?.label ?? id;
  const asking = (title: string) =>
    acts.filter((a) =>
      vocabulary.acts
        .find((v) => v.id === a)
        ?.help?.split(", ")
        .includes(title),
    );
  if (acts.length === 0) return <p className="text-sm text-soft">No act of it asks for a check.</p>;
  return (
    <div className="grid gap-1 text-sm">
      <p>
        <span className="text-soft">Acts:</span> {acts.map((a) => named(vocabulary.acts, a)).join(", ")}
      </p>
      {checks.length === 0 ? (
        <p className="text-soft">Nothing is asked for them.</p>
      ) : (
        <ul className="border-t border-rule">
          {inOrder(checks).map((c) => (
            <li
              key={c.check}
              className="grid grid-cols-[1fr_auto] gap-x-4 border-b border-rule py-1 sm:grid-cols-[11rem_4rem_1fr]"
            >
              <b>{c.title}</b>
              <span className={c.open ? "font-bold text-rust" : c.later ? "font-bold" : "text-moss"}>
                {c.open ? "open" : c.later ? "later" : "closed"}
              </span>
              <span className="col-span-2 sm:col-span-1">
                {c.why}
                {(c.open || c.later) && (
                  <span className="block text-soft">
                    {asking(c.title).length > 0 &&
                      `Asked by: ${asking(c.title)
                        .map((a) => named(vocabulary.acts, a))
                        .join(", ")}. `}
                    {c.who && `Closed by: ${c.who}`}
                    {c.how.length > 0 && `, with ${c.how.map((k) => named(kinds, k)).join(" or ")}`}
                    {c.lead_weeks > 0 && `, ${c.lead_weeks} weeks ahead`}
                  </span>
                )}
              </span>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

const rank = (c: CheckRow) => (c.open ? 0 : c.later ? 1 : 2);

/** What is open first, then what comes with the day. */
const inOrder = (checks: CheckRow[]) => [...checks].sort((a, b) => rank(a) - rank(b));
