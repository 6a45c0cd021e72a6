import { useNotSeparatedFrom } from "@/features/identify";
import { caseOf, type Draft } from "@/shared/records/draft";
import { entryOf } from "@/shared/records/entries";
import type { Site } from "@/shared/records/reads";

const MOST = 3;
// there from the start and of one height: what comes late must not push a key from under a thumb
const LINE = "mb-1 block h-[53px] w-full content-center truncate border-l-4 bg-sheet px-3 text-left text-sm";

/** A name that was typed, with what it is still taken for: in one line on every step, since the sheet goes on by itself. */
export function OpenName(props: { draft: Draft; site: Site | undefined; onName: () => void }) {
  const { draft, site, onName } = props;
  const name = entryOf(draft, "determination")?.body;
  const typed = name?.taxon && !name.probability ? name.taxon : undefined;
  const { data: rivals, isError } = useNotSeparatedFrom(typed, caseOf(draft, site));
  if (!typed) return null;
  if (!rivals?.length)
    return (
      <p className={`${LINE} border-rule text-soft`}>
        {rivals
          ? "Nothing like it is left to tell apart."
          : isError
            ? "Not compared with what is like it: no answer."
            : "Compared with what is like it …"}
      </p>
    );
  const names = rivals.slice(0, MOST).map((r) => r.name);
  const more = rivals.length > MOST ? ` and ${rivals.length - MOST} more` : "";
  return (
    <button type="button" onClick={onName} className={`${LINE} border-ochre text-slate underline`}>
      Not yet separated from <span className="latin text-base">{names.join(", ")}</span>
      {more}
    </button>
  );
}
