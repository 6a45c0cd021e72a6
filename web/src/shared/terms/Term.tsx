import { createContext, type ReactNode, useContext } from "react";
import { useSites, useVocabulary } from "@/shared/records/reads";
import { Definition } from "@/shared/ui";

const RegionContext = createContext<string | undefined>(undefined);

/** Inside, terms are those of this region: of the site at hand. */
export function InRegion({ region, children }: { region: string | undefined; children: ReactNode }) {
  return <RegionContext value={region}>{children}</RegionContext>;
}

/** The region of the site at hand; where there is none at hand, that of the organisation's first site. */
function useRegion(): string {
  const here = useContext(RegionContext);
  const first = useSites().data?.[0]?.region;
  return here ?? first ?? "us";
}

/** The label of a term in the region of the site. */
export function useTermLabel(): (id: string, otherwise: string) => string {
  const region = useRegion();
  const terms = useVocabulary().data?.terms;
  return (id, otherwise) => {
    const term = terms?.find((t) => t.id === id);
    return term?.regions?.[region] ?? term?.label ?? otherwise;
  };
}

/** A term of the trade: its definition shows on tap, and when the keyboard comes to it. */
export function Term({ id, children }: { id: string; children?: string }) {
  const label = useTermLabel()(id, children ?? id.replaceAll("_", " "));
  const term = useVocabulary().data?.terms.find((t) => t.id === id);
  if (!term) return <>{children ?? label}</>;
  const definition = (
    <>
      <strong>{label}</strong>
      {term.unit && <span> ({term.unit})</span>}
      <span className="mt-1 block">{term.meaning}</span>
    </>
  );
  return <Definition definition={definition}>{children ?? label}</Definition>;
}
