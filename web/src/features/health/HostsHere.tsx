import { useState } from "react";
import { Link } from "react-router";
import { Button } from "@/shared/ui";
import type { SiteHealth } from "./useSiteHealth";

const MOST = 10;
const percent = (share: number | null | undefined) =>
  share === null || share === undefined ? "" : `${Math.round(100 * share)} %`;

interface Props {
  health: SiteHealth;
  search: string;
}

/** How much of what stands here the graver causes could take; those that hit most badly first. */
export function HostsHere({ health, search }: Props) {
  const [all, setAll] = useState(false);
  if (!health.exposure.length) return null;
  return (
    <section aria-label="Hosts here">
      <h2 className="text-xl">Hosts here</h2>
      <div className="overflow-x-auto">
        <table className="w-full border-collapse text-left text-sm">
          <thead>
            <tr className="border-b border-ink">
              <th className="py-1 pr-3">Cause</th>
              <th className="pr-3 text-right">Stems</th>
              <th className="pr-3 text-right">of stems</th>
              <th className="pr-3 text-right">of basal area</th>
              <th className="text-right">badly hit</th>
            </tr>
          </thead>
          <tbody>
            {(all ? health.exposure : health.exposure.slice(0, MOST)).map((e) => (
              <tr key={e.agent} className="border-b border-rule">
                <td className="py-1 pr-3">
                  <Link to={`/health/causes/${e.agent}${search}`} className="text-slate underline">
                    {e.name}
                  </Link>
                </td>
                <td className="pr-3 text-right tabular-nums">{e.stems}</td>
                <td className="pr-3 text-right tabular-nums">{percent(e.stems_share)}</td>
                <td className="pr-3 text-right tabular-nums">{percent(e.basal_area_share)}</td>
                <td className="text-right tabular-nums">{percent(e.badly_share)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {!all && health.exposure.length > MOST && (
        <Button weight="quiet" className="-ml-4" onClick={() => setAll(true)}>
          All {health.exposure.length}
        </Button>
      )}
    </section>
  );
}
