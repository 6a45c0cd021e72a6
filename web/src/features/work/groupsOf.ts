import { grouped } from "@/shared/grouped";
import type { Proposed } from "@/shared/work/siteWork";

/** Proposals in groups that say the same: a rule, with what it asks for, its season and its cautions. */
export function groupsOf(proposals: Proposed[]): { key: string; rows: Proposed[] }[] {
  const said = ({ proposal: p, only }: Proposed) =>
    JSON.stringify([p.rule, p.do, p.note, p.season?.begins, p.season?.ends, p.within_days, p.cautions, only]);
  return [...grouped(proposals, said)].map(([key, rows]) => ({ key, rows }));
}
