import type { BodyOf, EntryIn } from "@/shared/records/entries";
import type { Entry, Visit } from "@/shared/records/reads";

export interface Picture {
  id: string;
  on: string;
}
export interface Point {
  id: string;
  body: BodyOf<"photo_point">;
  /** oldest first */
  pictures: Picture[];
}

/** The photo points of a tree with their pictures. A picture of a point that was corrected later belongs to it still. */
export function pointsOf(visits: Visit[], draft: EntryIn[] = []): Point[] {
  const entries = visits.flatMap((v) => v.entries.map((e) => ({ entry: e, on: v.local_date })));
  const replaces = new Map(entries.map(({ entry }) => [entry.id, entry.replaces]));
  const root = (id: string): string => {
    const before = replaces.get(id);
    return before ? root(before) : id;
  };
  const pictures = entries
    .filter(({ entry }) => entry.stands && entry.kind === "photo" && entry.body?.shows)
    .sort((a, b) => a.on.localeCompare(b.on));
  const standing = entries.flatMap(({ entry }) =>
    entry.stands && entry.kind === "photo_point" && entry.body ? [{ id: entry.id, body: entry.body }] : [],
  );
  const begun = draft.flatMap((e) =>
    e.kind === "photo_point" && e.body.name ? [{ id: e.id, body: e.body }] : [],
  );
  return [...standing, ...begun].map(({ id, body }) => ({
    id,
    body,
    pictures: pictures
      .filter(({ entry }) => root(shown(entry)) === root(id))
      .map(({ entry, on }) => ({ id: entry.id, on })),
  }));
}

const shown = (entry: Entry) => (entry.kind === "photo" && entry.body?.shows) || "";

/** Where a photograph's file is read. */
export const fileOf = (picture: Picture) => `/api/photos/${picture.id}/`;

/** How the stand is found again. */
export const standOf = ({ stand, bearing_deg }: Point["body"]) =>
  [stand, typeof bearing_deg === "number" && `looking ${Math.round(bearing_deg)}°`]
    .filter(Boolean)
    .join(", ");
