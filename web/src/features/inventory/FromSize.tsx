import { useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "@/api/client";
import { inWords } from "@/shared/dates";
import { savedCopy } from "@/shared/outbox";
import { type Units, useUnits } from "@/shared/site/units";
import { Term } from "@/shared/terms/Term";
import { RiskNow } from "./RiskNow";

/** Row -> the term whose definition stands behind it. */
const TERM: Record<string, string> = {
  "Basal area": "basal_area",
  Growth: "growth",
  "Root protection area": "root_protection_area",
  "Structural roots": "structural_root_zone",
  "Overlapping crowns": "overlapping_crowns",
  "Live crown ratio": "live_crown_ratio",
  Carbon: "carbon",
};

type From = Schemas["FromSize"];

/** What follows from the figures of a stem: each with its rule, its doubt, or the reason it is refused. */
export function FromSize({ plantId, visits }: { plantId: string; visits: number }) {
  const units = useUnits();
  const { data } = useQuery({
    queryKey: ["plant", plantId, "from size", visits],
    enabled: visits > 0,
    queryFn: () =>
      savedCopy(`from size ${plantId}`, async () =>
        unwrap(
          await api.GET("/api/plants/{plant_id}/from-size/", { params: { path: { plant_id: plantId } } }),
        ),
      ),
  });
  if (!data) return null;
  const rows = rowsOf(data, units);
  if (rows.length === 0 && data.changes.length === 0 && !data.risk) return null;
  return (
    <>
      {data.risk && <RiskNow risk={data.risk} />}
      <section className="mt-4 grid gap-6 lg:grid-cols-2" aria-label="What follows from it">
        {rows.length > 0 && (
          <div>
            <h2 className="border-b-2 border-ink text-xl">From its size</h2>
            <dl>
              {rows.map(([what, figure, how]) => (
                <div key={what} className="grid grid-cols-[9rem_1fr] gap-3 border-b border-rule py-1">
                  <dt className="text-sm">{TERM[what] ? <Term id={TERM[what]} /> : what}</dt>
                  <dd>
                    {figure} {how && <span className="block text-sm text-soft">{how}</span>}
                  </dd>
                </div>
              ))}
            </dl>
          </div>
        )}
        {data.changes.length > 0 && (
          <div>
            <h2 className="border-b-2 border-ink text-xl">Since the visit before</h2>
            <ul>
              {data.changes.map((said) => (
                <li key={said} className="border-b border-rule py-1">
                  {said}
                </li>
              ))}
            </ul>
          </div>
        )}
      </section>
    </>
  );
}

function rowsOf(d: From, units: Units): [string, string, string][] {
  const rows: [string, string, string][] = [];
  if (d.basal_area_m2)
    rows.push(["Basal area", units.shown(d.basal_area_m2, "m2", units.system === "metric" ? 4 : 2), ""]);
  if (d.growth)
    rows.push([
      "Growth",
      d.growth.none
        ? "none that can be told"
        : `${units.shown(d.growth.cm_a_year, "cm", 2)} ± ${units.figure(d.growth.band_cm, "cm", 2)} of diameter a year`,
      d.growth.doubt ||
        `${inWords(d.growth.from)} to ${inWords(d.growth.to)}. ${d.growth.none ? "The change lies within the error of measuring: none is read from it." : d.growth.against_its_kind}`,
    ]);
  if (d.rings)
    rows.push([
      "Growth by a core",
      `${units.shown(d.rings.cm_a_year, "cm", 2)} of diameter a year`,
      `${d.rings.per_cm.toFixed(1)} rings to the centimetre of radius, wood without bark`,
    ]);
  if (d.protection)
    rows.push([
      "Root protection area",
      `${units.shown(d.protection.radius_m, "m")} around the tree, ${units.shown(d.protection.area_m2, "m2", 0)}`,
      [
        ...d.protection.warnings.map((w) => `${w.charAt(0).toUpperCase()}${w.slice(1)}.`),
        `${d.protection.rule}; diameter ${units.shown(d.protection.dbh_cm, "cm")} by its own rule for stems.`,
      ].join(" "),
    ]);
  if (d.structural_root)
    rows.push([
      "Structural roots",
      `${units.shown(d.structural_root.radius_m, "m")}, ${units.shown(d.structural_root.area_m2, "m2", 0)}`,
      d.structural_root.rule,
    ]);
  if (d.crown_area_m2) rows.push(["Ground under the crown", units.shown(d.crown_area_m2, "m2", 0), ""]);
  if (d.crown_overlaps.length)
    rows.push([
      "Overlapping crowns",
      d.crown_overlaps
        .map((o) => `${o.tag ? `tag ${o.tag}` : o.name || "a neighbour"} ${Math.round(100 * o.share)} %`)
        .join(", "),
      "share of the smaller of the two crowns, taken as circles",
    ]);
  if (d.live_crown_ratio !== null)
    rows.push([
      "Live crown ratio",
      `${Math.round(100 * d.live_crown_ratio)} %`,
      "uncompacted: from the lowest live branch",
    ]);
  if (d.carbon)
    rows.push(
      d.carbon.refused
        ? ["Carbon", "no figure", `No figure: ${d.carbon.refused}.`]
        : [
            "Carbon",
            `${units.shown(d.carbon.carbon_kg, "kg")}, ${units.shown(d.carbon.co2e_kg, "kg")} CO₂ equivalent`,
            [
              `${units.shown(d.carbon.biomass_kg, "kg")} dry mass above ground, as ${d.carbon.group}`,
              d.carbon.shoots > 1 ? `, of ${d.carbon.shoots} stems` : "",
              d.carbon.shoots_refused ? ` (${d.carbon.shoots_refused} too thin)` : "",
              `; by component ratios ${d.carbon.components.map((c) => `${c.part} ${units.shown(c.kg, "kg")}`).join(", ")}.`,
              d.carbon.outside && ` ${d.carbon.outside}`,
              ` ${d.carbon.source}.`,
            ].join(""),
          ],
    );
  return rows;
}
