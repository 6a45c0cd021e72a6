import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { core } from "@/core";
import { HARM_WORDS, harmClass } from "@/shared/health";
import { reaches } from "@/shared/member";
import { placeOf, useCounts } from "@/shared/records/place";
import { useVocabulary } from "@/shared/records/reads";
import { NoSite, SitePicker, useSitePicked } from "@/shared/site/SitePicker";
import { PageState } from "@/shared/ui";
import { BlocksHealth } from "./BlocksHealth";
import { Holds } from "./Holds";
import { HostsHere } from "./HostsHere";
import { LookFor } from "./LookFor";
import { Station } from "./Station";
import { type SiteHealth, useSiteHealth } from "./useSiteHealth";

/** Plant health: what is present, suspected and expected on a site, what is held back, and every cause. */
export function HealthPage() {
  const picked = useSitePicked();
  const { member, sites, site, on, params, set } = picked;
  const vocabulary = useVocabulary();
  const health = useSiteHealth(picked.asked, on);
  if (!sites || !vocabulary.data)
    return <PageState error={picked.error ?? vocabulary.error} what="plant health" />;
  if (!site) return <NoSite />;
  const found = health.data;
  const search = params.toString() ? `?${params}` : "";
  return (
    <div className="mx-auto max-w-6xl p-4 md:p-8">
      <h1 className="mb-4 text-3xl">Plant health</h1>
      <SitePicker sites={sites} site={site} on={on} set={set} />
      {!found && <PageState error={health.error} what="the health of the site" />}
      {found && (
        <div className="grid gap-x-10 gap-y-6 lg:grid-cols-[3fr_2fr]">
          <div className="grid content-start gap-6">
            <Holds health={found} mayLift={reaches(member, "steward")} />
            <Present health={found} search={search} />
            <Unexplained health={found} signs={vocabulary.data.signs} />
            <HostsHere health={found} search={search} />
          </div>
          <div className="grid content-start gap-6">
            <LookFor health={found} search={search} />
            <BlocksHealth health={found} vocabulary={vocabulary.data} maySet={reaches(member, "steward")} />
            <Station site={site.id} health={found} mayRead={reaches(member, "steward")} />
            <Watch health={found} search={search} />
            <Samples health={found} />
          </div>
        </div>
      )}
      <EveryCause site={site} on={on} search={search} />
    </div>
  );
}

function Present({ health, search }: { health: SiteHealth; search: string }) {
  return (
    <section aria-label="Present and suspected">
      <h2 className="text-xl">Present and suspected</h2>
      {health.causes.length === 0 ? (
        <p>Nothing was diagnosed on the {health.plants} plants of this site.</p>
      ) : (
        <ul className="border-t-2 border-ink">
          {health.causes.map((c) => (
            <li key={c.cause} className="border-b border-rule py-2">
              <div className="flex flex-wrap items-baseline justify-between gap-x-4">
                <Link
                  to={`/health/causes/${c.cause}${search}`}
                  className="text-lg font-bold text-slate underline underline-offset-4"
                >
                  {c.name}
                </Link>
                <span className="tabular-nums">
                  {c.plants} {c.plants === 1 ? "plant" : "plants"}
                </span>
              </div>
              <p className="text-sm">
                <span className={harmClass(c.harm)}>{HARM_WORDS[c.harm]}</span>
                <span className="latin"> {c.latin}</span>
              </p>
              <p className="text-sm text-soft">
                {c.harm === "harmless" ? "Seen" : ""}
                {[
                  c.confirmed && `${c.confirmed} confirmed`,
                  c.probable && `${c.probable} probable`,
                  c.suspected && `${c.suspected} suspected`,
                ]
                  .filter((text) => text && c.harm !== "harmless")
                  .join(", ")}
                . {c.by_block.map((b) => `${b.name} ${b.plants}`).join(", ")}.{" "}
                {c.by_host.map((h) => `${h.name || "unnamed"} ${h.plants}`).join(", ")}.
              </p>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

const MOST_UNEXPLAINED = 8;

function Unexplained({ health, signs }: { health: SiteHealth; signs: { id: string; label: string }[] }) {
  if (!health.unexplained.length) return null;
  const label = (id: string) => signs.find((s) => s.id === id)?.label.toLowerCase() ?? id;
  return (
    <section aria-label="Signs not judged yet">
      <h2 className="text-xl">Signs not judged yet</h2>
      <ul className="border-t border-rule">
        {health.unexplained.slice(0, MOST_UNEXPLAINED).map((u) => (
          <li key={u.plant} className="flex flex-wrap items-baseline gap-x-3 border-b border-rule py-1">
            <Link to={`/survey/${u.plant}`} className="target inline-flex items-center text-slate underline">
              {u.tag || "no tag"}
            </Link>
            <span className="latin">{u.name || "unnamed"}</span>
            <span className="text-sm text-soft">{u.signs.map(label).join(", ")}</span>
          </li>
        ))}
      </ul>
      {health.unexplained.length > MOST_UNEXPLAINED && (
        <p className="text-sm text-soft">and {health.unexplained.length - MOST_UNEXPLAINED} more.</p>
      )}
    </section>
  );
}

function Watch({ health, search }: { health: SiteHealth; search: string }) {
  if (!health.watch.length) return null;
  return (
    <section aria-label="Watch list">
      <h2 className="text-xl">Watch list</h2>
      <p className="text-sm text-soft">Not known here yet, notifiable, and its hosts stand here.</p>
      <ul className="border-t border-rule">
        {health.watch.map((w) => (
          <li key={w.cause} className="border-b border-rule py-1">
            <Link to={`/health/causes/${w.cause}${search}`} className="font-bold text-slate underline">
              {w.name}
            </Link>{" "}
            <span className="text-sm tabular-nums text-soft">{w.plants} hosts</span>
            <p className="text-sm">{w.look}</p>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Samples({ health }: { health: SiteHealth }) {
  if (!health.samples.length) return null;
  return (
    <section aria-label="Samples without a result">
      <h2 className="text-xl">Samples without a result</h2>
      <ul className="border-t border-rule">
        {health.samples.map((s) => (
          <li key={`${s.plant} ${s.number}`} className="border-b border-rule py-1">
            <Link to={`/history/${s.plant}`} className="text-slate underline">
              {s.number}
            </Link>{" "}
            {[s.sent_to, s.sent_on && `sent ${s.sent_on}`].filter(Boolean).join(", ")}
          </li>
        ))}
      </ul>
    </section>
  );
}

interface EveryProps {
  site: { id: string; lat: number; lon: number; elevation_m?: number; areas: string[] };
  on: string;
  search: string;
}

/** Every cause that is held: those with hosts here first. */
function EveryCause({ site, on, search }: EveryProps) {
  const counts = useCounts();
  const list = useQuery({
    queryKey: ["causes", site.id, on, counts.data],
    enabled: counts.data !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () =>
      core.causes({
        on,
        place: placeOf({ elevation_m: 0, ...site }),
        areas: site.areas,
        counts: counts.data ?? {},
      }),
  });
  if (!list.data) return null;
  return (
    <section aria-label="Every cause" className="mt-8">
      <h2 className="text-xl">Every cause</h2>
      <p className="mb-2 text-sm text-soft">
        {list.data.length} pests, diseases and disorders; first those with hosts in the inventory.
      </p>
      <ul className="columns-1 gap-8 sm:columns-2 lg:columns-3">
        {list.data.map((c) => (
          <li
            key={c.agent}
            className="flex break-inside-avoid items-baseline justify-between gap-2 border-b border-rule py-1"
          >
            <Link
              to={`/health/causes/${c.agent}${search}`}
              className="text-slate underline underline-offset-4"
            >
              {c.name}
            </Link>
            <span className={`text-sm ${harmClass(c.harm)}`}>
              {HARM_WORDS[c.harm]}
              {c.here === "absent" && <span className="font-normal text-soft">, not here</span>}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
