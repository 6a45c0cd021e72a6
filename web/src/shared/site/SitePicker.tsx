import { useSearchParams } from "react-router";
import { today } from "@/shared/dates";
import { useMember } from "@/shared/member";
import { type Block, type Site, useBlocks, useSites } from "@/shared/records/reads";
import { Field, Notice, Select } from "@/shared/ui";

const DAY = /^\d{4}-\d{2}-\d{2}$/;

/** Site, block and day of a page, as its address says them; the first site, all blocks, today where it is silent. */
export function useSitePicked() {
  const member = useMember();
  const sites = useSites();
  const blocks = useBlocks();
  const [params, setParams] = useSearchParams();
  const site = sites.data?.find((s) => s.id === params.get("site")) ?? sites.data?.[0];
  const on = params.get("on") ?? today(member, site);
  const set = (key: string, value: string) => {
    const next = new URLSearchParams(params);
    if (value) next.set(key, value);
    else next.delete(key);
    if (key === "site") next.delete("block"); // one of another site
    setParams(next, { replace: true });
  };
  return {
    member,
    sites: sites.data,
    site,
    blocks: blocks.data?.filter((b) => b.site_id === site?.id),
    block: params.get("block") ?? "",
    on,
    /** what to ask for: none while the day is half typed */
    asked: DAY.test(on) ? site?.id : undefined,
    params,
    set,
    error: sites.error ?? blocks.error,
  };
}

interface Props {
  sites: Site[];
  site: Site;
  /** where the page goes by block */
  blocks?: Block[];
  block?: string;
  on: string;
  dayLabel?: string;
  latest?: string;
  set: (key: string, value: string) => void;
  /** what else the page asks for */
  children?: React.ReactNode;
}

/** The fields of site, block and day at the head of a page. */
export function SitePicker({
  sites,
  site,
  blocks,
  block,
  on,
  dayLabel = "On",
  latest,
  set,
  children,
}: Props) {
  return (
    <div className="mb-6 grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
      {sites.length > 1 && (
        <Select label="Site" value={site.id} onChange={(e) => set("site", e.target.value)}>
          {sites.map((s) => (
            <option key={s.id} value={s.id}>
              {s.name}
            </option>
          ))}
        </Select>
      )}
      {blocks && (
        <Select label="Block" value={block} onChange={(e) => set("block", e.target.value)}>
          <option value="">all blocks</option>
          {blocks.map((b) => (
            <option key={b.id} value={b.id}>
              {b.name}
            </option>
          ))}
        </Select>
      )}
      <Field
        label={dayLabel}
        type="date"
        value={on}
        max={latest}
        onChange={(e) => set("on", e.target.value)}
      />
      {children}
    </div>
  );
}

/** A page of a site where there is none yet. */
export function NoSite() {
  return (
    <div className="p-4">
      <Notice kind="refused">No site yet. A steward makes one.</Notice>
    </div>
  );
}
