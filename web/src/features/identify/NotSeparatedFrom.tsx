import { useQuery } from "@tanstack/react-query";
import { type Case, core } from "@/core";
import type { Vocabulary } from "@/shared/records/reads";

/** The rivals of a name that was entered without Identify; asked for where there is one. */
export const useNotSeparatedFrom = (taxon: string | undefined, given: Case) =>
  useQuery({
    queryKey: ["not separated from", taxon, given],
    enabled: Boolean(taxon),
    retry: false,
    queryFn: () => core.notSeparatedFrom({ case: given, taxon: taxon ?? "" }),
  });

/** For a name entered without Identify: what it is taken for, and the looks that would part the two. Silent where there is nothing. */
export function NotSeparatedFrom({
  taxon,
  given,
  vocabulary,
}: {
  taxon: string;
  given: Case;
  vocabulary: Vocabulary;
}) {
  const rivals = useNotSeparatedFrom(taxon, given);
  if (rivals.error)
    return <p className="text-sm text-soft">What it is taken for is looked up when online.</p>;
  if (!rivals.data || rivals.data.length === 0) return null;
  return (
    <div className="border-l-4 border-ochre bg-sheet px-3 py-2">
      <h3 className="font-sans text-sm font-bold">Not yet separated from</h3>
      <ul>
        {rivals.data.slice(0, 5).map((r) => (
          <li key={r.taxon}>
            <span className="latin">{r.name}</span>
            {r.looks.length > 0 && (
              <span className="text-sm text-soft">
                {" "}
                by{" "}
                {r.looks
                  .slice(0, 3)
                  .map((cid) => vocabulary.characters.find((c) => c.id === cid)?.label.toLowerCase() ?? cid)
                  .join("; ")}
              </span>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}
