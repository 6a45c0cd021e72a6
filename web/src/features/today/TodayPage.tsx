import { lazy, Suspense } from "react";
import { Link } from "react-router";
import { inWords, today } from "@/shared/dates";
import { reaches, useMember } from "@/shared/member";
import { heightOnStem } from "@/shared/records/labels";
import { useToday } from "@/shared/records/place";
import { type Block, type Site, useBlocks, useSites } from "@/shared/records/reads";
import { useSeason } from "@/shared/records/useSeason";
import { SeasonLegend, SeasonRing } from "@/shared/season-ring/SeasonRing";
import { useUnitsOf } from "@/shared/site/units";
import { Term } from "@/shared/terms/Term";
import { PageState } from "@/shared/ui";
import { RiskToday } from "./RiskToday";

// a form of every setting, for stewards: not among what the first screen waits for
const Conventions = lazy(async () => ({ default: (await import("./Conventions")).Conventions }));

// it waits for the server anyway; the first screen does not wait for its script
const DayPlan = lazy(async () => ({ default: (await import("./DayPlan")).DayPlan }));

const WorkToday = lazy(async () => ({ default: (await import("./WorkToday")).WorkToday }));

const BIOSECURITY_ORDER = { clean: 0, suspect: 1, infested: 2 };

/** Set out: the blocks in the order that carries no disease, and what shows now. */
export function TodayPage() {
  const member = useMember();
  const blocks = useBlocks();
  const sites = useSites();
  const first = blocks.data?.[0];
  const date = useToday(first?.id);
  const season = useSeason(first?.id, date);
  if (!blocks.data || !sites.data) return <PageState error={blocks.error ?? sites.error} what="the blocks" />;
  return (
    <div className="mx-auto max-w-6xl p-4 md:p-8">
      <p className="text-soft">{member.organisation_name}</p>
      <h1 className="mb-6 text-3xl">{inWords(date)}</h1>
      <div className="grid gap-8 lg:grid-cols-[1fr_20rem]">
        <div>
          {sites.data.length === 0 && (
            <p className="mb-4">
              No site yet. {reaches(member, "steward") ? "Make the first one." : "A steward makes one."}
            </p>
          )}
          <RiskToday />
          {reaches(member, "surveyor") && blocks.data.length > 0 && (
            <p className="mb-4 flex flex-wrap gap-x-6">
              <Link to="/inspections" className="target inline-flex items-center text-slate underline">
                Inspections
              </Link>
              <Link to="/inspections/walk" className="target inline-flex items-center text-slate underline">
                Walk a street, exceptions only
              </Link>
              <Link to="/health" className="target inline-flex items-center text-slate underline">
                Plant health
              </Link>
              <Link to="/work" className="target inline-flex items-center text-slate underline">
                Work
              </Link>
              <Link to="/storm" className="target inline-flex items-center text-slate underline">
                After a storm
              </Link>
            </p>
          )}
          {sites.data.map((site) => (
            <Suspense key={site.id} fallback={null}>
              <WorkToday site={site} on={today(member, site)} titled={sites.data.length > 1} />
              <DayPlan
                site={site}
                blocks={blocks.data.filter((b) => b.site_id === site.id)}
                titled={sites.data.length > 1}
              />
            </Suspense>
          ))}
          {sites.data.map((site) => (
            <section key={site.id} className="mb-8">
              <h2 className="text-xl">{site.name}</h2>
              <p className="mb-2 text-sm text-soft">
                <BreastHeight site={site} /> · several stems by{" "}
                {site.several_stems === "largest_plus_half"
                  ? "largest plus half the rest"
                  : "root of the sum of squares"}{" "}
                · area {site.areas.join(", ")}
                {site.hardiness_zone && `, zone ${site.hardiness_zone}`}{" "}
                {reaches(member, "steward") && (
                  <>
                    <Link
                      to={`/sites/${site.id}`}
                      className="inline-flex min-h-[44px] items-center text-sm text-slate underline"
                    >
                      Place and area
                    </Link>{" "}
                    <Suspense fallback={null}>
                      <Conventions site={site} />
                    </Suspense>
                  </>
                )}
              </p>
              {!blocks.data.some((b) => b.site_id === site.id) && (
                <p className="border-t border-rule py-3">
                  No block yet.{" "}
                  {reaches(member, "steward") && (
                    <Link
                      to={`/map?site=${site.id}&new=block`}
                      className="target inline-flex items-center text-slate underline"
                    >
                      Draw the first block
                    </Link>
                  )}
                </p>
              )}
              <ol className="border-t border-rule">
                {inBiosecurityOrder(blocks.data.filter((b) => b.site_id === site.id)).map((block, i) => (
                  <li key={block.id} className="border-b border-rule">
                    <Link
                      to={`/map/${block.id}`}
                      className="grid min-h-[64px] grid-cols-[2rem_1fr_auto] items-center gap-3 py-2 hover:bg-sheet"
                    >
                      <span className="figure text-xl text-soft">{i + 1}</span>
                      <span>
                        <strong>{block.name}</strong>
                        <span className="block text-sm text-soft">
                          {block.note || block.setting?.replaceAll("_", " ")}
                        </span>
                      </span>
                      <span className="text-right text-sm">
                        <span className="figure text-lg">{block.plant_count}</span> plants
                        <span
                          className={`block ${block.biosecurity === "clean" ? "text-moss" : "font-bold text-rust"}`}
                        >
                          {block.biosecurity}
                        </span>
                      </span>
                    </Link>
                  </li>
                ))}
              </ol>
            </section>
          ))}
          {reaches(member, "steward") && (
            <p className="mb-4">
              <Link to="/sites/new" className="target inline-flex items-center text-slate underline">
                New site
              </Link>
            </p>
          )}
          <p className="text-sm text-soft">
            Clean blocks first: boots and saws carry soil from sick stands to sound ones. Clean them between
            blocks.
          </p>
          <p className="mt-2">
            <Link to="/glossary" className="target inline-flex items-center text-slate underline">
              Glossary: what the terms mean
            </Link>
          </p>
        </div>
        <aside aria-label="What shows now">
          <h2 className="text-xl">
            <Term id="season_ring">What shows now</Term>
          </h2>
          {first && <p className="text-sm text-soft">on {first.name}, by its own trees</p>}
          {season.data ? (
            <>
              <SeasonRing rows={season.data} date={date} size={264} />
              <SeasonLegend rows={season.data} />
            </>
          ) : (
            <PageState error={season.error} what="the season" />
          )}
        </aside>
      </div>
    </div>
  );
}

function BreastHeight({ site }: { site: Site }) {
  return <>Breast height {heightOnStem(site.breast_height_m, useUnitsOf(site))}</>;
}

function inBiosecurityOrder(blocks: Block[]): Block[] {
  return [...blocks].sort(
    (a, b) =>
      BIOSECURITY_ORDER[a.biosecurity ?? "clean"] - BIOSECURITY_ORDER[b.biosecurity ?? "clean"] ||
      a.name.localeCompare(b.name),
  );
}
