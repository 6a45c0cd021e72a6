import type { Proposed } from "@/shared/work/siteWork";

interface CheckOfRows {
  title: string;
  open: number;
  later: number;
  all: number;
  whys: string[];
}

/** How a check stands for all trees of a group. */
export function checkOf(rows: Proposed[], check: string): CheckOfRows {
  const states = rows.flatMap((r) => r.proposal.checks.filter((c) => c.check === check));
  const weeks = Math.max(...states.map((c) => c.lead_weeks));
  return {
    title: states[0]?.title ?? "",
    open: states.filter((c) => c.open).length,
    later: states.filter((c) => c.later && !c.open).length,
    all: states.length,
    whys: [...new Set(states.map((c) => `${c.why}${weeks > 0 ? ` ${weeks} weeks ahead.` : ""}`))],
  };
}

/** A check of the group: open, later or closed, for all or for how many; why, where it is the same for all. */
export function CheckLine({ of }: { of: CheckOfRows }) {
  const said = of.open ? "open" : of.later ? "later" : "closed";
  const some = of.open > 0 && of.open < of.all ? ` for ${of.open} of ${of.all}` : "";
  return (
    <span className="block">
      <b className={of.open ? "text-rust" : of.later ? "" : "text-moss"}>
        {of.title}, {said}
        {some}.
      </b>{" "}
      {of.whys.length === 1 ? of.whys[0] : "See each tree."}
    </span>
  );
}
