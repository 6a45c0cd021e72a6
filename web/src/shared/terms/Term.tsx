import { useVocabulary } from "@/shared/records/reads";
import { useSite } from "@/shared/site/InSite";
import { Definition } from "@/shared/ui";

/** The label of a term in the region of the site. */
export function useTermLabel(): (id: string, otherwise: string) => string {
  const region = useSite()?.region ?? "us";
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
