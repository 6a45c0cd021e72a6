import { createContext, type ReactNode, useContext } from "react";
import { type Site, useSites } from "@/shared/records/reads";

const SiteContext = createContext<Site | undefined>(undefined);

/** Inside, terms are those of this site's region, and figures are in its units. */
export function InSite({ site, children }: { site: Site | undefined; children: ReactNode }) {
  return <SiteContext value={site}>{children}</SiteContext>;
}

/** The site at hand; where none is, the organisation's first. */
export function useSite(): Site | undefined {
  const here = useContext(SiteContext);
  const first = useSites().data?.[0];
  return here ?? first;
}
