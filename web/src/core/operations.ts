import { api, type Schemas, unwrap } from "@/api/client";

// One typed function for each operation of the core's door. What is asked and what comes back is described in
// jubark_core/door.py; where it is answered (the server now) is this folder's business alone.

type S = Schemas;
export type Case = S["CaseIn"];
export type Place = S["PlaceIn"];

/** The ranking of a case, without what to look at next (null: not asked for). */
export const rank = async (given: Case) => unwrap(await api.POST("/api/core/rank/", { body: given }));

/** What to look at next for a case; an empty list where nothing is worth an observation. */
export const nextObservations = async (given: Case) =>
  unwrap(await api.POST("/api/core/next/", { body: given }));

/** The whole answer to a case: the ranking and what to look at next. */
export const namePlant = async (given: Case) => unwrap(await api.POST("/api/core/name/", { body: given }));

/** The balance of a case in plain words. */
export const explain = async (given: Case) => unwrap(await api.POST("/api/core/explain/", { body: given }));

/** What a name that one knows is not yet separated from. */
export const notSeparatedFrom = async (given: S["ClaimIn"]) =>
  unwrap(await api.POST("/api/core/not-separated-from/", { body: given }));

/** Taxa by accepted name, synonym or common name. */
export const findNames = async (given: S["WordsIn"]) =>
  unwrap(await api.POST("/api/core/find-names/", { body: given }));

/** Characters, states, names and fixed words. */
export const vocabulary = async () => unwrap(await api.POST("/api/core/vocabulary/", { body: {} }));

/** Answer tiles as SVG by character and state. */
export const tiles = async () => unwrap(await api.POST("/api/core/tiles/", { body: {} }));

/** A plate of a taxon as SVG text, to be shown as an image. */
export const plate = async (given: S["PlateIn"]) =>
  unwrap(await api.POST("/api/core/plate/", { body: given }));

/** A taxon as it is described. */
export const species = async (taxon: string) =>
  unwrap(await api.POST("/api/core/species/", { body: { taxon } }));

/** The flora as a list for a day at a place. */
export const speciesList = async (given: S["DayIn"]) =>
  unwrap(await api.POST("/api/core/species-list/", { body: given }));

/** Two to four taxa: only what differs. */
export const sideBySide = async (given: S["TaxaIn"]) =>
  unwrap(await api.POST("/api/core/side-by-side/", { body: given }));

/** What shows when, for the season ring. */
export const season = async (given: S["DayIn"]) =>
  unwrap(await api.POST("/api/core/season/", { body: given }));

/** What the plants of a place show in a month. */
export const year = async (given: S["MonthIn"]) => unwrap(await api.POST("/api/core/year/", { body: given }));

/** What follows from the entries of a visit, and what speaks against them. */
export const checkVisit = async (given: S["CheckVisitIn"]) =>
  unwrap(await api.POST("/api/core/check-visit/", { body: given }));

/** Whether the grown plant fits between the things round its place. */
export const space = async (given: S["SpaceIn"]) =>
  unwrap(await api.POST("/api/core/space/", { body: given }));

/** A record of an earlier version as the current one has it. */
export const upgrade = async (given: S["UpgradeIn"]) =>
  unwrap(await api.POST("/api/core/upgrade/", { body: given }));
