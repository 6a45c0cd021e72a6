import { useQuery } from "@tanstack/react-query";
import { Link, useParams, useSearchParams } from "react-router";
import { core } from "@/core";
import { today } from "@/shared/dates";
import { HARM_WORDS, harmClass, SignPicture } from "@/shared/health";
import { useMember } from "@/shared/member";
import { savedCopy } from "@/shared/outbox";
import { placeOf, useCounts } from "@/shared/records/place";
import { useBlocks, useSites, useVocabulary } from "@/shared/records/reads";
import { windowHere } from "@/shared/season-ring/DatesHere";
import { Notice, PageState } from "@/shared/ui";
import { Spread } from "./Spread";

const HERE: Record<string, string> = {
  present: "known in this area",
  absent: "not known in this area",
  unknown: "not on record for this area",
};
const REPORT: Record<string, string> = {
  yes: "Notifiable here: a suspicion is told at once.",
  "where not yet present": "Notifiable where it is not yet present.",
  "by local rule": "Notifiable by local rule: ask.",
};

/** A cause at this site: its signs drawn, hosts here, false friends, season, spread, and the usual response. */
export function CausePage() {
  const { agent = "" } = useParams();
  const member = useMember();
  const [params] = useSearchParams();
  const sites = useSites();
  const blocks = useBlocks();
  const vocabulary = useVocabulary();
  const counts = useCounts();
  const site = sites.data?.find((s) => s.id === params.get("site")) ?? sites.data?.[0];
  const on = params.get("on") ?? today(member, site);
  const search = params.toString() ? `?${params}` : "";
  const page = useQuery({
    queryKey: ["cause", agent, on, site?.id, counts.data],
    enabled: site !== undefined && counts.data !== undefined,
    queryFn: () =>
      savedCopy(`cause ${agent}`, () =>
        core.cause({
          agent,
          on,
          ...(site ? { place: placeOf(site), areas: site.areas } : {}),
          counts: counts.data ?? {},
        }),
      ),
  });
  if (!page.data || !vocabulary.data || !site)
    return <PageState error={page.error ?? sites.error ?? vocabulary.error} what="this cause" />;
  const p = page.data;
  return (
    <div className="mx-auto max-w-6xl p-4 md:p-8">
      <p className="text-sm">
        <Link to={`/health${search}`} className="target inline-flex items-center text-slate underline">
          Plant health
        </Link>
      </p>
      <h1 className="text-3xl">{p.name}</h1>
      <p className="mb-3">
        <span className="latin">{p.latin}</span> {p.kind},{" "}
        <span className={harmClass(p.harm)}>{HARM_WORDS[p.harm]}</span>, {HERE[p.here]}.{" "}
        {REPORT[p.must_report]}
      </p>
      {p.must_report && (
        <div className="mb-4">
          <Notice kind="caution" title="Who to tell:">
            {p.tell}.{p.must_report === "yes" || p.here !== "present" ? ` ${p.hold}` : ""}
          </Notice>
        </div>
      )}
      {p.cautions.map((caution) => (
        <div key={caution} className="mb-4">
          <Notice kind="caution">{caution}</Notice>
        </div>
      ))}
      <section aria-label="Signs" className="mb-6">
        <h2 className="text-xl">Signs</h2>
        <p className="mb-2">{p.next}</p>
        <ul className="grid grid-cols-2 gap-3 sm:grid-cols-4 lg:grid-cols-6">
          {p.signs.map((s) => (
            <li key={s.sign} className="border border-rule bg-sheet p-2">
              <SignPicture
                sign={s.sign}
                version={vocabulary.data.version}
                className="mb-1 aspect-square w-full object-contain"
              />
              <p className="font-bold leading-tight">{s.label}</p>
              <p className="text-sm text-soft">
                {s.often}
                {s.size_mm.length > 0 && `, ${s.size_mm.join(" to ")} mm`}
                {s.on.length > 0 && `, on ${s.on.slice(0, 3).join(", ")}`}
              </p>
            </li>
          ))}
        </ul>
      </section>
      <div className="grid gap-x-10 gap-y-6 lg:grid-cols-2">
        <div className="grid content-start gap-6">
          <section aria-label="Hosts">
            <h2 className="text-xl">Hosts</h2>
            <dl className="border-t border-rule">
              {p.hosts.map((h) => (
                <div key={h.level} className="border-b border-rule py-1">
                  <dt className="font-bold">
                    {h.label}
                    {h.plants > 0 && (
                      <span className="font-normal tabular-nums text-soft"> {h.plants} here</span>
                    )}
                  </dt>
                  <dd className="latin text-sm">{h.names.join(", ")}</dd>
                </div>
              ))}
            </dl>
          </section>
          {p.friends.length > 0 && (
            <section aria-label="Taken for each other">
              <h2 className="text-xl">Taken for each other</h2>
              <ul className="border-t border-rule">
                {p.friends.map((f) => (
                  <li key={f.agent} className="border-b border-rule py-1">
                    <Link
                      to={`/health/causes/${f.agent}${search}`}
                      className="font-bold text-slate underline"
                    >
                      {f.name}
                    </Link>
                    <p className="text-sm">{f.how}</p>
                  </li>
                ))}
              </ul>
            </section>
          )}
        </div>
        <div className="grid content-start gap-6">
          <section aria-label="Season and response">
            <h2 className="text-xl">Season and response</h2>
            {p.season && <p>Active here: {windowHere({ ...p, window: p.season })}</p>}
            <ul className="list-disc pl-5">
              {p.response.map((r) => (
                <li key={r.do}>
                  {r.do}{" "}
                  <span className="text-sm text-soft">
                    {r.by && `By: ${r.by}. `}
                    {r.window && windowHere(r)}
                  </span>
                </li>
              ))}
            </ul>
            <p className="mt-1 text-sm text-soft">Local rules and licensed people decide.</p>
            {p.spread.length > 0 && <p className="mt-2">Spreads by {p.spread.join(", ")}.</p>}
            {p.sample && (
              <p className="mt-2">
                <b>Sample:</b> {p.sample}
              </p>
            )}
          </section>
          <Spread site={site} blocks={blocks.data ?? []} cause={agent} />
        </div>
      </div>
      <p className="mt-6 text-sm text-soft">
        Source: {p.source}. Grades:{" "}
        {Object.entries(p.grades)
          .map(([fact, grade]) => `${fact} ${grade}`)
          .join(", ")}
        . B: consistent in several works; C: in one, or unsure. Read by nobody against them yet.
      </p>
    </div>
  );
}
