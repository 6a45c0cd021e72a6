import { useMemo } from "react";
import { useNotSeparatedFrom } from "@/features/identify";
import { caseOf, type Draft } from "@/shared/records/draft";
import { entryOf } from "@/shared/records/entries";
import { type Site, useVocabulary } from "@/shared/records/reads";

const MOST = 3;

/** A name that was typed, with what it is still taken for: in one line on every step, since the sheet goes on by itself. */
export function OpenName(props: { draft: Draft; site: Site | undefined; onName: () => void }) {
  const { draft, site, onName } = props;
  const vocabulary = useVocabulary().data;
  const kinds = useMemo(() => new Map(vocabulary?.characters.map((c) => [c.id, c.kind])), [vocabulary]);
  const name = entryOf(draft, "determination")?.body;
  const typed = name?.taxon && !name.probability ? name.taxon : undefined;
  const rivals = useNotSeparatedFrom(typed, caseOf(draft, site, kinds)).data ?? [];
  if (!typed || rivals.length === 0) return null;
  const names = rivals.slice(0, MOST).map((r) => r.name);
  const more = rivals.length > MOST ? ` and ${rivals.length - MOST} more` : "";
  return (
    <button
      type="button"
      onClick={onName}
      className="mb-1 block min-h-[53px] w-full truncate border-l-4 border-ochre bg-sheet px-3 text-left text-sm text-slate underline"
    >
      Not yet separated from <span className="latin text-base">{names.join(", ")}</span>
      {more}
    </button>
  );
}
