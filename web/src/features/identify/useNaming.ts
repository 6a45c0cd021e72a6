import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { caseOf, type Draft } from "@/shared/records/draft";
import { type EntryIn, type EntryOf, withEntry } from "@/shared/records/entries";
import type { Site } from "@/shared/records/reads";
import { next, ranked } from "./naming";

/** What the core makes of a draft: the ranking, what to look at next, one after the other. */
export function useNaming(draft: Draft, site: Site | undefined) {
  const given = useMemo(() => caseOf(draft, site), [draft, site]);
  const ranking = useQuery({ ...ranked(given), placeholderData: (before) => before });
  // one after the other: side by side the longer half would hold up the ranking, which is waited for
  const isRanked = ranking.data !== undefined && !ranking.isPlaceholderData;
  const ahead = useQuery({ ...next(given), enabled: isRanked, placeholderData: (before) => before });
  const standing = ranking.data;
  const looks = ahead.data?.next_looks ?? [];
  const withheld = ahead.data?.withheld ?? [];
  const client = useQueryClient();
  /** Weighs an observation while it is still being written. */
  const weigh = (entry: EntryOf<"observation">) =>
    void client.prefetchQuery(
      ranked(caseOf({ ...draft, entries: withObservation(draft.entries, entry) }, site)),
    );
  return {
    given,
    standing,
    /** the standing is still that of the case before the last answer */
    stale: ranking.isPlaceholderData,
    looks,
    withheld,
    asked: ahead.data !== undefined && !ahead.isPlaceholderData,
    error: ranking.error,
    weigh,
  };
}

/** The entries with one observation more, in the place of an earlier one of the same character. */
export function withObservation(entries: EntryIn[], entry: EntryOf<"observation">): EntryIn[] {
  const anew = entry.body.character;
  return withEntry(
    entries.filter((e) => !(e.kind === "observation" && e.body.character === anew)),
    entry,
  );
}
