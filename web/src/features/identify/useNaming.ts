import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useRef } from "react";
import { newId } from "@/shared/ids";
import { caseOf, type Draft } from "@/shared/records/draft";
import { type BodyOf, type EntryIn, type EntryOf, withEntry } from "@/shared/records/entries";
import type { Site, Vocabulary } from "@/shared/records/reads";
import { next, ranked } from "./naming";

/** What the core makes of a draft: the ranking, what to look at next, and the same for an answer not given yet. */
export function useNaming(draft: Draft, site: Site | undefined, vocabulary: Vocabulary) {
  const kinds = useMemo(() => new Map(vocabulary.characters.map((c) => [c.id, c.kind])), [vocabulary]);
  const given = useMemo(() => caseOf(draft, site, kinds), [draft, site, kinds]);
  const client = useQueryClient();
  const ranking = useQuery({ ...ranked(given), placeholderData: (before) => before });
  // one after the other: side by side the longer half would hold up the ranking, which is waited for
  const isRanked = ranking.data !== undefined && !ranking.isPlaceholderData;
  const ahead = useQuery({ ...next(given), enabled: isRanked, placeholderData: (before) => before });
  const standing = ranking.data;
  const looks = ahead.data?.next_looks ?? [];
  const withheld = ahead.data?.withheld ?? [];
  // an observation that is asked about before it is made has the id it will be recorded with
  const ids = useRef(new Map<string, string>());
  const entryFor = (body: BodyOf<"observation">): EntryOf<"observation"> => {
    const key = JSON.stringify([draft.id, body]);
    const id = ids.current.get(key) ?? newId();
    ids.current.set(key, id);
    return { id, kind: "observation", body };
  };
  /** Asks for the answer to the case with one observation more, before it is written: it is there when it is needed. */
  const askAhead = (body: BodyOf<"observation">) => {
    const longer = caseOf({ ...draft, entries: withObservation(draft.entries, entryFor(body)) }, site, kinds);
    void client.prefetchQuery(ranked(longer)).then(() => client.prefetchQuery(next(longer)));
  };
  return {
    given,
    standing,
    /** the standing is still that of the case before the last answer */
    stale: ranking.isPlaceholderData,
    looks,
    withheld,
    asked: ahead.data !== undefined,
    error: ranking.error,
    entryFor,
    askAhead,
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
