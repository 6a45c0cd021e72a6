import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, type Schemas, unwrap } from "@/api/client";
import { SpaceCheck } from "@/features/species";
import { inWords } from "@/shared/dates";
import { NameSearch } from "@/shared/names/NameSearch";
import { Button, Notice, PageState } from "@/shared/ui";

type Share = Schemas["Share"];
const percent = (share: number) => `${Math.round(share * 100)} %`;

/** Planting: places nothing stands in, what one more of a kind would do to the stand, and what survived. */
export function PlantingView({ site, on }: { site: string; on: string }) {
  const [taxon, setTaxon] = useState<{ id: string; name: string } | null>(null);
  const read = useQuery({
    queryKey: ["planting", site, on, taxon?.id],
    queryFn: async () =>
      unwrap(
        await api.GET("/api/sites/{site_id}/work/planting/", {
          params: { path: { site_id: site }, query: { on, ...(taxon ? { taxon: taxon.id } : {}) } },
        }),
      ),
    placeholderData: (before) => before,
  });
  const found = read.data;
  if (!found) return <PageState error={read.error} what="planting" />;
  return (
    <section aria-label="Planting" className="grid gap-6 lg:grid-cols-2">
      <div className="grid content-start gap-5">
        <section aria-label="Vacant planting sites">
          <h2 className="border-b-2 border-ink text-xl">Vacant planting sites</h2>
          {found.season.length > 0 && (
            <p className="text-sm text-soft">
              Planting season here: {inWords(found.season[0] ?? "")} to {inWords(found.season[1] ?? "")}.
              Underground utilities are located before anybody digs.
            </p>
          )}
          {found.vacant.length === 0 && <p>No planting site is vacant.</p>}
          <ul>
            {found.vacant.map((v) => (
              <li key={v.plant} className="border-b border-rule">
                <Link
                  to={`/history/${v.plant}`}
                  className="target inline-flex items-center text-slate underline"
                >
                  {[v.row_name && `${v.row_name} ${v.row_position ?? ""}`, v.block_name]
                    .filter(Boolean)
                    .join(", ")}
                </Link>
                {v.not_here.length > 0 && (
                  <span className="ml-3 text-sm text-rust">Not again here: {v.not_here.join(", ")}.</span>
                )}
              </li>
            ))}
          </ul>
        </section>
        <section aria-label="What may be planted" className="grid gap-2">
          <h2 className="border-b-2 border-ink text-xl">One more of what?</h2>
          {taxon ? (
            <Button className="justify-self-start" onClick={() => setTaxon(null)}>
              Another than {taxon.name}
            </Button>
          ) : (
            <NameSearch
              label="Species or genus"
              onTake={(picked) => setTaxon({ id: picked.taxon, name: picked.name })}
            />
          )}
          {taxon && <SpaceCheck taxon={taxon.id} />}
          {taxon &&
            (found.exceeds.length === 0 ? (
              <p role="status">
                One more <i className="latin">{taxon.name}</i> keeps species, genus and family within what is
                advised.
              </p>
            ) : (
              <Notice kind="caution">
                One more {taxon.name} would go over what is advised:{" "}
                {found.exceeds
                  .map((s) => `${s.rank} ${percent(Math.max(s.of_stems, s.of_crown))}`)
                  .join(", ")}
                .
              </Notice>
            ))}
        </section>
      </div>
      <div className="grid content-start gap-5">
        <section aria-label="Diversity">
          <h2 className="border-b-2 border-ink text-xl">Over what is advised</h2>
          <p className="text-sm text-soft">
            At most 10 % of a species, 20 % of a genus, 30 % of a family, by stems and by crown area
            (Santamour 1990, a rule of thumb). {found.trees} trees alive
            {found.few ? ": too few for shares to say much." : "."}
          </p>
          {found.over.length === 0 ? <p>Nothing is over it.</p> : <Shares rows={found.over} />}
        </section>
        <section aria-label="Survival">
          <h2 className="border-b-2 border-ink text-xl">What survived</h2>
          {found.survival.length === 0 && <p>No planting is on record.</p>}
          <ul>
            {found.survival.map((s) => (
              <li key={`${s.block} ${s.name}`} className="flex gap-x-3 border-b border-rule py-1">
                <span className="latin flex-1">{s.name}</span>
                <span className="text-sm text-soft">{s.block}</span>
                <span className="tabular-nums">
                  {s.alive} of {s.planted}
                </span>
              </li>
            ))}
          </ul>
        </section>
      </div>
    </section>
  );
}

function Shares({ rows }: { rows: Share[] }) {
  return (
    <table className="w-full border-collapse text-left text-sm">
      <thead>
        <tr className="border-b border-rule">
          <th className="py-1">Taxon</th>
          <th>Rank</th>
          <th className="pl-3 text-right">of stems</th>
          <th className="pl-3 text-right">of crown area</th>
          <th className="pl-3 text-right">advised</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((s) => (
          <tr key={`${s.rank} ${s.name}`} className="border-b border-rule">
            <td className={`py-1 ${s.rank === "family" ? "" : "latin"}`}>{s.name}</td>
            <td>{s.rank}</td>
            <td className="pl-3 text-right tabular-nums">{percent(s.of_stems)}</td>
            <td className="pl-3 text-right tabular-nums">
              {s.of_crown ? percent(s.of_crown) : "not measured"}
            </td>
            <td className="pl-3 text-right tabular-nums">{percent(s.limit)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
