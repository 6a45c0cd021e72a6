/** What the tests of the web share: the committed samples, and the vocabulary as the server gives it. */
import { readFileSync } from "node:fs";
import type { Member } from "@/shared/member";
import type { Draft } from "@/shared/records/draft";
import type { EntryIn } from "@/shared/records/entries";
import type { Site, Vocabulary } from "@/shared/records/reads";
import { unitsOf } from "@/shared/site/units";

const SAMPLES = new URL("../../../jubark_core/tests/samples/v7/", import.meta.url);
const read = (file: string | URL) => JSON.parse(readFileSync(file, "utf8"));

export const vocabulary: Vocabulary = read(process.env["JUBARK_VOCABULARY"] ?? "");
export const metric = unitsOf("metric", vocabulary.records.units);
export const customary = unitsOf("us_customary", vocabulary.records.units);

interface Item {
  kind: string;
  body: { entries?: EntryIn[] };
}
export const entriesOfSamples: EntryIn[] = (read(new URL("outbox.json", SAMPLES)) as Item[])
  .filter((item) => item.kind === "visit")
  .flatMap((item) => item.body.entries ?? []);

export const draft: Draft = { ...read(new URL("draft.json", SAMPLES)), pictures: [] };

export const member = { id: "m", shown_name: "Ilka", role: "surveyor", today: "" } as unknown as Member;
export const site = {
  several_stems: "largest_plus_half",
  smallest_cm: 5,
  breast_height_m: 1.3,
} as unknown as Site;
