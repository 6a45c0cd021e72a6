import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { api, unwrap } from "@/api/client";
import { reaches, useMember } from "@/shared/member";
import { savedCopy } from "@/shared/outbox";
import { nameShown } from "@/shared/records/labels";
import { useSiteOf } from "@/shared/records/place";
import {
  type Block,
  type Row,
  type Target,
  useBlocks,
  usePlan,
  usePlans,
  useSites,
  useTargets,
  useVocabulary,
} from "@/shared/records/reads";
import { type Units, useUnitsOf } from "@/shared/site/units";
import { Button, Field, Notice, PageState } from "@/shared/ui";
import { BlockMap } from "./BlockMap";
import { BlockSheet } from "./BlockSheet";
import type { Corner } from "./corners";
import { NewTree } from "./NewTree";
import { TargetSheet } from "./TargetSheet";
import { TargetsFromFile } from "./TargetsFromFile";

const NONE: Block[] = [];
const NO_TARGETS: Target[] = [];

/** Map and blocks: pick a block, pick a stem, or set out a new one. */
export function MapPage() {
  const member = useMember();
  const { blockId } = useParams();
  const navigate = useNavigate();
  const blocks = useBlocks();
  const plan = usePlan(blockId);
  const sites = useSites();
  const vocabulary = useVocabulary();
  const [params, setParams] = useSearchParams();
  const [selected, setSelected] = useState<string | null>(null);
  const [placing, setPlacing] = useState(false);
  const [mark, setMark] = useState<[number, number] | null>(null);
  const [words, setWords] = useState("");
  const [corners, setCorners] = useState<Corner[]>([]);
  const steward = reaches(member, "steward");
  const drawing = steward ? (params.get("new") ?? "") : ""; // "block" for a new one, "boundary" for the chosen one, "target", or the id of one
  const chosen = blocks.data?.find((b) => b.id === blockId);
  const siteId = chosen?.site_id ?? params.get("site") ?? blocks.data?.[0]?.site_id ?? sites.data?.[0]?.id;
  const site = sites.data?.find((s) => s.id === siteId);
  const targets = useTargets(siteId).data ?? NO_TARGETS;
  const target = targets.find((t) => t.id === drawing);
  const draw = (what: string) => {
    setCorners([]);
    setParams({ ...(blockId || !siteId ? {} : { site: siteId }), ...(what ? { new: what } : {}) });
  };
  const neighbours = useMemo(
    () => (blocks.data ?? []).filter((b) => b.site_id === siteId),
    [blocks.data, siteId],
  );
  const units = useUnitsOf(useSiteOf(blockId ?? neighbours[0]?.id));
  const everything = usePlans(blockId ? NONE : neighbours);
  if (!blocks.data) return <PageState error={blocks.error} what="the blocks" />;
  if (blockId && !chosen)
    return (
      <div className="p-4">
        <Notice kind="refused">This block is not found, or you have no access.</Notice>
      </div>
    );
  const stem = plan.rows.find((r) => r.id === selected);
  const found = plan.rows.filter(
    (r) => !words || r.tag.startsWith(words) || r.name.toLowerCase().includes(words.toLowerCase()),
  );
  return (
    <div className="grid md:h-dvh md:grid-cols-[1fr_22rem]">
      <section className="relative h-[52dvh] md:h-dvh" aria-label="Plan">
        <BlockMap
          blocks={neighbours}
          chosen={chosen}
          rows={blockId ? plan.rows : everything}
          selected={selected}
          mark={placing ? mark : null}
          targets={targets}
          sketch={corners}
          middle={site && [site.lon, site.lat]}
          system={units.system}
          drawing={drawing !== ""}
          onBlock={(id) => !placing && !drawing && id !== blockId && navigate(`/map/${id}`)}
          onPlant={(id) => !placing && !drawing && setSelected(id)}
          onPlace={(lon, lat) => {
            if (drawing) setCorners((before) => [...before, [lon, lat]]);
            else if (placing) setMark([lon, lat]);
          }}
        />
      </section>
      <aside className="overflow-y-auto border-l border-rule p-4" aria-label="Block">
        {drawing && siteId && !vocabulary.data ? (
          <PageState error={vocabulary.error} what="the fields of the form" />
        ) : (drawing === "target" || target) && siteId && vocabulary.data ? (
          <TargetSheet
            vocabulary={vocabulary.data}
            key={drawing}
            siteId={siteId}
            target={target}
            corners={corners}
            onCorners={setCorners}
            onDone={() => draw("")}
          />
        ) : (drawing === "block" || drawing === "boundary") && siteId && vocabulary.data ? (
          <BlockSheet
            vocabulary={vocabulary.data}
            key={drawing + blockId}
            siteId={siteId}
            block={drawing === "boundary" ? chosen : undefined}
            corners={corners}
            onCorners={setCorners}
            onDone={(id) => {
              setCorners([]);
              if (id) void navigate(`/map/${id}`);
              else draw("");
            }}
          />
        ) : !chosen ? (
          <>
            <h1 className="mb-3 text-2xl">Blocks</h1>
            {sites.data?.length === 0 ? (
              <p>
                No site yet.{" "}
                {steward ? (
                  <Link to="/sites/new" className="target inline-flex items-center text-slate underline">
                    Make the first site
                  </Link>
                ) : (
                  "A steward makes one."
                )}
              </p>
            ) : (
              blocks.data.length === 0 && (
                <p className="mb-3">
                  No block yet. {steward ? "Draw the first one." : "A steward draws one."}
                </p>
              )
            )}
            {steward && siteId && (
              <Button className="mb-3 w-full" onClick={() => draw("block")}>
                New block{(sites.data?.length ?? 0) > 1 && site ? ` on ${site.name}` : ""}
              </Button>
            )}
            {sites.data?.map((site) => (
              <section key={site.id} className="mb-6" aria-label={site.name}>
                <h2 className="flex items-baseline justify-between text-lg">
                  {site.name}
                  {site.id !== siteId && (
                    <button
                      type="button"
                      className="target text-sm text-slate underline"
                      onClick={() => setParams({ site: site.id })}
                    >
                      Show on the map
                    </button>
                  )}
                </h2>
                <ul className="border-t border-rule">
                  {blocks.data
                    .filter((b) => b.site_id === site.id)
                    .map((b) => (
                      <li key={b.id} className="border-b border-rule">
                        <button
                          type="button"
                          className="flex min-h-[56px] w-full items-center justify-between text-left"
                          onClick={() => navigate(`/map/${b.id}`)}
                        >
                          <strong>{b.name}</strong> <span className="text-soft">{b.plant_count} plants</span>
                        </button>
                      </li>
                    ))}
                </ul>
              </section>
            ))}
            {siteId && <Targets site={siteId} targets={targets} draw={steward ? draw : undefined} />}
            {everything.some((r) => r.id === selected) && (
              <Picked row={everything.find((r) => r.id === selected) as Row} />
            )}
          </>
        ) : placing ? (
          <NewTree block={chosen} rows={plan.rows} mark={mark} onCancel={() => setPlacing(false)} />
        ) : (
          <>
            <h1 className="text-2xl">{chosen.name}</h1>
            <p className="mb-3 text-sm text-soft">
              {chosen.setting?.replaceAll("_", " ")} · {chosen.biosecurity} · {plan.rows.length} plants
              <BlockFigures block={chosen.id} units={units} />
            </p>
            {reaches(member, "surveyor") && (
              <Button weight="act" className="mb-3 w-full" onClick={() => setPlacing(true)}>
                New tree
              </Button>
            )}
            {steward && (
              <Button weight="quiet" className="mb-3" onClick={() => draw("boundary")}>
                Change the block
              </Button>
            )}
            {stem && <Picked row={stem} />}
            <Field
              label="Find by tag or name"
              value={words}
              onChange={(e) => setWords(e.target.value)}
              type="search"
            />
            {plan.isPending && <PageState error={plan.error} what="the trees" />}
            {plan.data && plan.rows.length === 0 && (
              <p className="mt-3">No tree here yet. Go to the first one and press New tree.</p>
            )}
            <ul className="mt-3 border-t border-rule" aria-label="Trees of the block">
              {found.slice(0, 200).map((row) => (
                <li key={row.id} className="border-b border-rule">
                  <button
                    type="button"
                    onClick={() => setSelected(row.id)}
                    aria-pressed={row.id === selected}
                    className={`flex min-h-[48px] w-full items-baseline gap-3 px-1 text-left ${row.id === selected ? "bg-lichen" : ""}`}
                  >
                    <span className="figure w-14 font-semibold">
                      {row.tag || (row.form === "vacant" ? "place" : "no tag")}
                    </span>
                    {row.form === "vacant" ? (
                      <span className="flex-1">
                        {row.life === "removed" ? "planted or given up" : "vacant"}
                      </span>
                    ) : (
                      <span className="latin flex-1">
                        {nameShown(row.name, row.name_rank) || "not named"}
                      </span>
                    )}
                    <span className="text-sm text-soft">
                      {row.dbh_cm ? units.shown(row.dbh_cm, "cm") : ""}
                    </span>
                  </button>
                </li>
              ))}
            </ul>
            {found.length > 200 && (
              <p className="mt-2 text-sm text-soft">{found.length - 200} more; narrow by tag or name.</p>
            )}
          </>
        )}
      </aside>
    </div>
  );
}

/** What the trees of a site may fall on; a steward sets them. */
function Targets({
  site,
  targets,
  draw,
}: {
  site: string;
  targets: Target[];
  draw: ((what: string) => void) | undefined;
}) {
  return (
    <section aria-label="Targets" className="mb-6">
      <h2 className="text-lg">Targets</h2>
      <p className="mb-2 text-sm text-soft">
        What trees may fall on: they make the zones in which trees are inspected.
      </p>
      {targets.length === 0 && <p>None yet.</p>}
      <ul className="border-t border-rule">
        {targets.map((t) => (
          <li key={t.id} className="flex min-h-[48px] items-center gap-3 border-b border-rule">
            <span className="min-w-0 flex-1 break-words">
              <strong>{t.name}</strong>
              <span className="block text-sm text-soft">
                {t.kind.replaceAll("_", " ")}, somebody there: {t.occupancy}
              </span>
            </span>
            {draw && (
              <button
                type="button"
                className="target text-sm text-slate underline"
                onClick={() => draw(t.id)}
              >
                Change<span className="sr-only"> {t.name}</span>
              </button>
            )}
          </li>
        ))}
      </ul>
      {targets.length > 0 && (
        <a
          href={`/api/sites/${site}/targets.geojson`}
          className="target inline-flex items-center text-slate underline"
        >
          Targets as GeoJSON
        </a>
      )}
      {draw && (
        <>
          <Button className="mt-3 w-full" onClick={() => draw("target")}>
            New target
          </Button>
          <TargetsFromFile site={site} />
        </>
      )}
    </section>
  );
}

/** The ground of a block, and the basal area of its standing trees on it. */
function BlockFigures({ block, units }: { block: string; units: Units }) {
  const { data } = useQuery({
    queryKey: ["block summary", block],
    queryFn: () =>
      savedCopy(`block summary ${block}`, async () =>
        unwrap(await api.GET("/api/blocks/{block_id}/summary/", { params: { path: { block_id: block } } })),
      ),
  });
  if (!data) return null;
  const basal = units.shown(data.basal_area_m2_per_ha, "m2_per_ha");
  return (
    <span className="block">
      {units.shown(data.area_ha, "ha")}
      {data.measured > 0 && ` · basal area ${basal}, of ${data.measured} trees measured`}
    </span>
  );
}

function Picked({ row }: { row: Row }) {
  const navigate = useNavigate();
  const member = useMember();
  if (row.form === "vacant")
    return (
      <div className="mb-4 border-2 border-ink bg-sheet p-3" aria-live="polite">
        <p className="figure text-2xl font-semibold">Vacant planting site</p>
        <Button className="mt-3" onClick={() => navigate(`/history/${row.id}`)}>
          Open it
        </Button>
      </div>
    );
  return (
    <div className="mb-4 border-2 border-ink bg-sheet p-3" aria-live="polite">
      <p className="figure text-2xl font-semibold">{row.tag ? `Tag ${row.tag}` : "No tag"}</p>
      <p className="latin text-lg">{nameShown(row.name, row.name_rank) || "not named"}</p>
      <p className="text-sm text-soft">
        {row.tag_clash && <strong className="text-rust">Another tree carries this tag. </strong>}
        {row.life.replaceAll("_", " ")}, last seen {row.last_seen ?? "never"}
      </p>
      <div className="mt-3 flex gap-2">
        {reaches(member, "surveyor") && (
          <Button weight="act" onClick={() => navigate(`/survey/${row.id}`)}>
            Visit
          </Button>
        )}
        <Button onClick={() => navigate(`/history/${row.id}`)}>History</Button>
      </div>
    </div>
  );
}
