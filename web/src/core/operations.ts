import { api, Offline, type Schemas, unwrap } from "@/api/client";
import type { paths } from "@/api/schema";
import { askDevice, whetherReady } from "./device";

// One typed function for each operation of the core's door. What is asked and what comes back is described in
// jubark_core/door.py; where it is answered is this folder's business alone: on the device once the core runs there,
// by the server until then and where it cannot.

export type Case = Schemas["CaseIn"];
export type Place = Schemas["PlaceIn"];

type Json<T> = T extends { content: { "application/json": infer Body } } ? Body : never;
type Name = { [P in keyof paths]: P extends `/api/core/${infer N}/` ? N : never }[keyof paths];
type Post<N extends Name> = paths[`/api/core/${N}/` & keyof paths] extends { post: infer Op } ? Op : never;
type Given<N extends Name> = Post<N> extends { requestBody?: infer B } ? Json<NonNullable<B>> : never;
type Told<N extends Name> = Post<N> extends { responses: { 200: infer A } } ? Json<A> : never;

/** An operation of the door by its name. */
function operation<N extends Name>(name: N) {
  return async (given: Given<N>): Promise<Told<N>> => {
    const here = await askDevice<Told<N>>(name, given);
    if (here !== undefined) return here;
    // one address stands for all of them: that its types are those of the operation is said above
    const path = `/api/core/${name}/` as "/api/core/rank/";
    try {
      return unwrap(await api.POST(path, { body: given as Case })) as Told<N>;
    } catch (error) {
      if (!(error instanceof Offline) || !(await whetherReady())) throw error;
      const now = await askDevice<Told<N>>(name, given); // it came while the server was tried
      if (now === undefined) throw error;
      return now;
    }
  };
}

/** The ranking of a case, without what to look at next (null: not asked for). */
export const rank = operation("rank");

/** What to look at next for a case; an empty list where nothing is worth an observation. */
export const nextObservations = operation("next");

/** The whole answer to a case: the ranking and what to look at next. */
export const namePlant = operation("name");

/** The balance of a case in plain words. */
export const explain = operation("explain");

/** What a name that one knows is not yet separated from. */
export const notSeparatedFrom = operation("not-separated-from");

/** Taxa by accepted name, synonym or common name. */
export const findNames = operation("find-names");

/** Characters, states, names and fixed words. */
const theVocabulary = operation("vocabulary");
export const vocabulary = () => theVocabulary({});

/** Answer tiles as SVG by character and state. */
const theTiles = operation("tiles");
export const tiles = () => theTiles({});

/** A plate of a taxon as SVG text, to be shown as an image. */
export const plate = operation("plate");

/** Crowns to compare with, for every five per cent. */
export const crownCards = operation("crown-cards");

/** The dates of a taxon, a cause or a rule of work as they fall at a place. */
export const calendar = operation("calendar");

/** A taxon as it is described. */
const ofTaxon = operation("species");
export const species = (taxon: string) => ofTaxon({ taxon });

/** The flora as a list for a day at a place. */
export const speciesList = operation("species-list");

/** Two to four taxa: only what differs. */
export const sideBySide = operation("side-by-side");

/** What shows when, for the season ring. */
export const season = operation("season");

/** What the plants of a place show in a month. */
export const year = operation("year");

/** What follows from the entries of a visit, and what speaks against them. */
export const checkVisit = operation("check-visit");

/** What stands of a tree. */
export const treeFile = operation("tree-file");
export const stepHere = operation("step-here");

/** Whether the grown plant fits between the things round its place. */
export const space = operation("space");

/** A record of an earlier version as the current one has it. */
export const upgrade = operation("upgrade");

/** The ground to keep clear round a tree, by a standard with its own height and rule for several stems. */
export const protect = operation("protect");

/** Dry mass, carbon and CO2 equivalent of trees, with what is refused counted. */
export const carbon = operation("carbon");

/** Diameter growth between two readings, with its error band. */
export const growth = operation("growth");

/** Where the tape goes, by the form of the stem and the rules of a site. */
export const whereToMeasure = operation("where-to-measure");

/** Which trees that are down were probably entered twice. */
export const stormDoubles = operation("storm-doubles");

/** What is wrong with a plant, whether it is serious, what to look at next and what to do. */
export const diagnose = operation("diagnose");

/** The signs a plant can have now, the most telling first. */
export const signsToLookFor = operation("signs-to-look-for");

/** Every pest, disease and disorder in short. */
export const causes = operation("causes");

/** All that is told of a cause at a place on a day. */
export const cause = operation("cause");

/** What share of the plants each grave cause could take. */
export const hostExposure = operation("host-exposure");

/** Warmth gathered at the station, and when to look for what. */
export const pestClock = operation("pest-clock");

/** What the file of a tree proposes to do, when, after which checks. */
export const propose = operation("propose");

/** Whether a job may take a step, and what stands against it. */
export const jobStep = operation("job-step");

/** Degree days of a record. */
export const degreeDays = operation("degree-days");

/** How trees stand against an owner's table of inspections on a day. */
export const coverage = operation("coverage");

/** What fits into a day, in walking order, and what stays. */
export const planDay = operation("plan-day");
