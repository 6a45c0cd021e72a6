import { useEffect } from "react";
import { useParams } from "react-router";
import { emptyDraft } from "@/shared/records/draft";
import { entryOf } from "@/shared/records/entries";
import { useToday } from "@/shared/records/place";
import { useBlocks, usePlan, useSites, useVocabulary } from "@/shared/records/reads";
import { useDraft } from "@/shared/records/useDraft";
import { Notice, PageState } from "@/shared/ui";
import { OlderDraft } from "@/shared/visit/OlderDraft";
import { Identify } from "./Identify";

const LOOSE = "loose"; // a plant that is no tree of the site: the draft is stored under this key

/** Name a plant: one plain question at a time, the honest name always in view. */
export function IdentifyPage() {
  const { plantId = LOOSE } = useParams();
  const vocabulary = useVocabulary();
  const blocks = useBlocks();
  const sites = useSites();
  const { draft, older, put, change, drop } = useDraft(plantId);
  const firstBlock = blocks.data?.[0];
  const date = useToday(firstBlock?.id);
  const plan = usePlan(draft?.block);

  useEffect(() => {
    if (draft === null && plantId === LOOSE && firstBlock && (sites.data || sites.isError))
      void put(emptyDraft(LOOSE, firstBlock.id, date, firstBlock.setting ?? "unknown", "unknown", "mature"));
  }, [draft, plantId, firstBlock, put, date, sites.data, sites.isError]);

  if (older) return <OlderDraft older={older} onThrowAway={drop} />;
  if (draft === null && plantId !== LOOSE)
    return (
      <div className="p-4">
        <Notice>No visit to this tree is open. Pick it on the map and press Visit.</Notice>
      </div>
    );
  if (!draft || !vocabulary.data)
    return <PageState error={vocabulary.error ?? blocks.error} what="the vocabulary" />;
  const block = blocks.data?.find((b) => b.id === draft.block);
  const site = sites.data?.find((g) => g.id === block?.site_id);
  const tag = entryOf(draft, "tag")?.body.number || plan.rows.find((r) => r.id === plantId)?.tag;
  return (
    <Identify
      draft={draft}
      change={change}
      vocabulary={vocabulary.data}
      site={site}
      loose={plantId === LOOSE}
      where={block?.name ?? ""}
      tag={tag ?? ""}
    />
  );
}
