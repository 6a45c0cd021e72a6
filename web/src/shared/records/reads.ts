import { useQueries, useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { api, type Schemas, unwrap } from "@/api/client";
import { core } from "@/core";
import { copyOf, type OutboxItem, savedCopy, useSaved } from "@/shared/outbox";

export type Block = Schemas["Block"];
export type Site = Schemas["Site"];
export type Row = Schemas["Current"];
export type Target = Schemas["Target"];
export type Plant = Schemas["Plant"];
export type Visit = Schemas["Visit"];
export type Entry = Schemas["EntryShown"];
export type VisitIn = Schemas["VisitIn"];
export type Vocabulary = Schemas["Vocabulary"];
export type Character = Schemas["Character"];

export function useSites() {
  return useQuery({
    queryKey: ["sites"],
    queryFn: () => savedCopy("sites", async () => unwrap(await api.GET("/api/sites/"))),
  });
}

export function useBlocks() {
  return useQuery({
    queryKey: ["blocks"],
    queryFn: () => savedCopy("blocks", async () => unwrap(await api.GET("/api/blocks/"))),
  });
}

/** What trees of a site may fall on. */
export function useTargets(siteId: string | undefined) {
  return useQuery({
    queryKey: ["targets", siteId],
    enabled: Boolean(siteId),
    queryFn: () =>
      savedCopy(`targets ${siteId}`, async () =>
        unwrap(
          await api.GET("/api/sites/{site_id}/targets/", { params: { path: { site_id: siteId ?? "" } } }),
        ),
      ),
  });
}

/** Every plant of a block: the server's rows, and those still kept on this device. */
export function usePlan(blockId: string | undefined) {
  const saved = useSaved("plant");
  const query = useQuery({ ...planOf(blockId ?? ""), enabled: Boolean(blockId) });
  const read = query.dataUpdatedAt;
  const rows = useMemo(() => {
    const there = new Set(query.data?.map((r) => r.id));
    // one that has just been sent stays in view until the plan is read anew
    const own = saved
      .filter((i) => i.state !== "sent" || (i.sent_at ?? 0) > read)
      .filter((i) => "block" in i.body && i.body.block === blockId && !there.has(i.id))
      .map(rowOf);
    return [...own, ...(query.data ?? [])];
  }, [query.data, read, saved, blockId]);
  return { ...query, rows };
}

const planOf = (blockId: string) => ({
  queryKey: ["plan", blockId],
  queryFn: () =>
    savedCopy(`plan ${blockId}`, async () => {
      const rows: Row[] = [];
      for (;;) {
        const after = rows.at(-1)?.id;
        const params = { path: { block_id: blockId }, query: after ? { after } : {} };
        const page = unwrap(await api.GET("/api/blocks/{block_id}/plants/", { params }));
        rows.push(...page);
        if (page.length < PAGE) return rows;
      }
    }),
});

const PAGE = 5000; // rows the server gives at a time

const MOST_AT_ONCE = 5000; // plants of a whole site that a map of it shows

/** Every plant of several blocks, for a plan of them all; none where they are too many to be told apart. */
export function usePlans(blocks: Block[]): Row[] {
  const few = blocks.reduce((sum, b) => sum + b.plant_count, 0) <= MOST_AT_ONCE ? blocks : [];
  const plans = useQueries({ queries: few.map((b) => planOf(b.id)) });
  const read = plans.map((p) => p.dataUpdatedAt).join(" ");
  // biome-ignore lint/correctness/useExhaustiveDependencies: `read` says when any of them has changed
  return useMemo(() => plans.flatMap((p) => p.data ?? []), [read]);
}

/** A plant that has not been sent yet, as a row of the plan. */
function rowOf(item: OutboxItem): Row {
  const b = item.body as Schemas["PlantIn"];
  return {
    id: item.id,
    block_id: b.block,
    form: b.form ?? "tree",
    row_name: b.row_name ?? "",
    lon: b.lon ?? null,
    lat: b.lat ?? null,
    outline: null,
    tag: "",
    tag_clash: false,
    taxon: "",
    name: "",
    name_rank: "",
    name_probability: null,
    dbh_cm: null,
    dbh_height_m: null,
    height_m: null,
    crown_spread_m: null,
    condition: "",
    condition_at_most: false,
    condition_in_winter: false,
    risk_reads: "",
    next_inspection: null,
    life: "alive",
    signs: [],
    verdict: "",
    cause: "",
    cause_standing: "",
    diagnosed_on: null,
    visits: 0,
    last_seen: null,
    contested: false,
  };
}

export function usePlant(plantId: string | undefined) {
  return useQuery({
    queryKey: ["plant", plantId],
    enabled: Boolean(plantId),
    queryFn: () =>
      savedCopy(`plant ${plantId}`, async () =>
        unwrap(await api.GET("/api/plants/{plant_id}/", { params: { path: { plant_id: plantId ?? "" } } })),
      ),
  });
}

export function useVocabulary() {
  return useQuery({
    queryKey: ["vocabulary"],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => savedCopy("vocabulary", core.vocabulary),
  });
}

/** The drawings that are on the device, where they are of this flora: two megabytes that need not come again. */
async function drawingsHere(version: string): Promise<Schemas["Tiles"] | undefined> {
  const kept = await copyOf<Schemas["Tiles"]>("drawings");
  return kept?.version === version ? kept : undefined;
}

/** Answer tiles: character -> state -> SVG. Asked for again only when the flora changes. */
export function useDrawings(version: string) {
  return useQuery({
    queryKey: ["drawings", version],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () => (await drawingsHere(version)) ?? savedCopy("drawings", core.tiles),
  });
}
