import type { Schemas } from "@/api/client";
import { inWords } from "@/shared/dates";
import type { Change, Draft } from "@/shared/records/draft";
import { SeasonRing } from "@/shared/season-ring/SeasonRing";
import { Circumstances } from "./Circumstances";

interface Props {
  draft: Draft;
  change: (part: Change) => Promise<unknown>;
  season: Schemas["Showing"][] | undefined;
  /** a plant that is no tree of the site */
  loose: boolean;
  where: string;
  tag: string;
  onVisit: () => void;
}

/** Which plant, where and when; and the season of its block. */
export function IdentifyHeader({ draft, change, season, loose, where, tag, onVisit }: Props) {
  return (
    <header className="flex flex-wrap items-center justify-between gap-x-4 border-b border-rule px-4 py-2">
      <div className="flex flex-wrap items-baseline gap-x-6">
        <h1 className="text-2xl">{loose ? "Identify" : tag ? `Tag ${tag}` : "Identifying this tree"}</h1>
        <p>
          <strong>{where}</strong>{" "}
          <span className="text-soft">
            {draft.setting.replaceAll("_", " ")},{" "}
            {draft.origin === "unknown" ? "origin not known" : draft.origin}
          </span>
        </p>
        <p>
          <strong>{inWords(draft.local_date)}</strong> <span className="text-soft">{draft.stage}</span>
        </p>
      </div>
      <div className="flex items-center gap-3">
        {loose && <Circumstances draft={draft} change={change} />}
        {!loose && (
          <button type="button" className="target text-slate underline" onClick={onVisit}>
            To the visit
          </button>
        )}
        <span className="hidden sm:block">
          {season && <SeasonRing rows={season} date={draft.local_date} size={58} named={false} />}
        </span>
      </div>
    </header>
  );
}
