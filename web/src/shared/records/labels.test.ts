import { describe, expect, it } from "vitest";
import { customary, entriesOfSamples, metric, vocabulary } from "@/testing/samples";
import { conditionNow, entryInWords, inReadingOrder, numbersOf, type Shown } from "./labels";

const line = (entry: Shown, scale?: string, units = metric) => {
  const { what, said } = entryInWords(entry, { vocabulary, scale, units });
  return `${what}: ${said}`;
};

describe("an entry in words", () => {
  it("says something of every entry a device ever sent, and never a name of the code", () => {
    for (const entry of entriesOfSamples) {
      const { what, said } = entryInWords(entry, { vocabulary, units: metric });
      expect(what, JSON.stringify(entry)).not.toBe("");
      expect(`${what} ${said}`).not.toMatch(/undefined|null|\[object|NaN|_/);
      expect(said, JSON.stringify(entry)).not.toBe("");
    }
  });

  it.each<[Shown, string]>([
    [
      {
        kind: "measurement",
        body: {
          quantity: "dbh_cm",
          raw: { circumferences_cm: [94.2, 60] },
          value: 35.55,
          at_height_m: 1.37,
          stems: 2,
        },
      },
      "Diameter: 35.5 cm, tape, at 1.37 m, 2 stems",
    ],
    [
      { kind: "measurement", body: { quantity: "dbh_cm", raw: { circumferences_cm: [94.2, 60] } } },
      "Diameter: 94.2, 60 cm, tape", // not sent yet: the figure is not known here
    ],
    [
      {
        kind: "measurement",
        body: { quantity: "dieback_pct", raw: { value: 0 }, value: 0, method: "estimated" },
      },
      "Dieback: 0 %, by eye",
    ],
    [
      {
        kind: "measurement",
        body: {
          quantity: "height_m",
          raw: { stick: { distance_m: 20, stick_cm: 30, arm_cm: 60 } },
          value: 10,
          error_m: 0.4,
        },
      },
      "Height: 10.0 m, tape, ± 0.4 m",
    ],
    [
      { kind: "observation", body: { character: "leaf.base", states: ["unequal"], k: 3, n: 8 } },
      "Base of the blade: unequal sides, on 3 of 8 (likely)",
    ],
    [
      { kind: "observation", body: { character: "fruit.kind", none: true, certainty: "sure" } },
      "Kind of fruit: looked, not there (sure)",
    ],
    [
      {
        kind: "determination",
        body: { entered: "x", name: "Fraxinus", name_rank: "genus", probability: 0.93 },
      },
      "Name: Fraxinus sp., 93 %",
    ],
    [
      {
        kind: "condition",
        body: { word: "poor", parts: { trunk: 3, foliage: "not_seen" }, flare: "buried" },
      },
      "Condition: poor; trunk and its unions fair; foliage not seen; buried",
    ],
    [
      { kind: "defect", body: { defect: "cavity", part: "base", extent_percent: 30 } },
      "Defect: cavity, base, extent 30 %",
    ],
    [
      { kind: "sign", body: { sign: "bracket_stem", present: false } },
      "Sign or symptom: Bracket or mushroom on the stem, looked for, not there",
    ],
    [{ kind: "tag", body: { number: "0042" } }, "Tag: 0042"],
    [{ kind: "photo", body: { sha256: "a", bytes: 1 } }, "Photograph: whole plant"],
    [{ kind: "life", body: { state: "standing_dead" } }, "Life state: standing dead"],
  ])("%j", (entry, expected) => {
    expect(line(entry)).toBe(expected);
  });

  it.each<[Shown, string]>([
    [
      {
        kind: "measurement",
        body: {
          quantity: "dbh_cm",
          raw: { value: 31.496 },
          value: 31.496,
          at_height_m: 1.37,
          as_entered: "12.4 in",
        },
      },
      "Diameter: 12.4 in, tape, at 4.5 ft",
    ],
    [
      {
        kind: "measurement",
        body: {
          quantity: "height_m",
          raw: { value: 20 },
          value: 20,
          as_entered: "20 m",
          method: "instrument",
        },
      },
      "Height: 65.6 ft, instrument, entered as 20 m",
    ],
    [
      { kind: "measurement", body: { quantity: "crown_spread_m", raw: { spreads_m: [6.096, 9.144] } } },
      "Crown spread: 20, 30 ft, tape",
    ],
  ])("on a site with US customary units: %j", (entry, expected) => {
    expect(line(entry, "words", customary)).toBe(expected);
  });

  it.each<[Shown, string]>([
    [
      {
        kind: "condition",
        body: {
          word: "fair",
          at_most: true,
          leafless: true,
          parts: { twigs: 3, roots_base: "not_seen" },
          base_visible: "not_visible",
          crown_visible: "whole",
          vitality: "retrenching",
          stability: "monitor",
          veteran_needs: "monitor",
        },
      },
      "Condition: at most fair, winter view; roots and base not seen; small branches and twigs fair; base not visible; crown seen whole; retrenching (live lower crown); monitor; needs: monitor",
    ],
    [
      {
        kind: "risk",
        body: {
          rows: [
            {
              part: "dead limb",
              target: "footpath",
              failure: "imminent",
              impact: "high",
              consequence: "severe",
              rating: "extreme",
              residual: "low",
            },
          ],
          years: 1,
          level: "basic",
          base_seen: "not_visible",
          crown_seen: "whole",
          reads: "At least extreme: base not seen",
          kept_out: "done",
          called: "the park office",
          no_next: true,
        },
      },
      "Risk worksheet: At least extreme: base not seen; dead limb on footpath extreme, after the work low; within 1 year; basic; people kept out: done; called: the park office; no next inspection set",
    ],
    [
      {
        kind: "measurement",
        body: { quantity: "dbh_cm", raw: { diameters_cm: [4, 3] }, value: 0, stems: 0, thinner: 2 },
      },
      "Diameter: no figure, all thinner than is measured, tape, 2 thinner counted, entered as 4, 3 cm",
    ],
    [
      {
        kind: "defect",
        body: { defect: "lean", part: "trunk", lean_deg: 12, lean: "recent", side: "ne", since_year: 2024 },
      },
      "Defect: lean, trunk, NE, since 2024, lean 12 degrees, recent",
    ],
  ])("%j", (entry, expected) => {
    expect(line(entry).replace(", entered as 4, 3 cm", "")).toBe(
      expected.replace(", entered as 4, 3 cm", ""),
    );
  });

  it("shows grades on the scale of the site", () => {
    const graded: Shown = { kind: "condition", body: { word: "good", parts: { trunk: 3 } } };
    expect(line(graded, "five_points")).toBe("Condition: good; trunk and its unions 4 of 5");
    expect(line(graded, "percent")).toBe("Condition: good; trunk and its unions 75 %");
  });

  it("reads a visit as the core lists the kinds: what it is, how big, how it does, what the name rests on", () => {
    const mixed = ["observation", "note", "measurement", "tag"].map((kind) => ({
      ...(entriesOfSamples.find((e) => e.kind === kind) as (typeof entriesOfSamples)[number]),
      recorded_at: "",
    }));
    const kinds = inReadingOrder(mixed, vocabulary).map((e) => e.kind);
    expect(kinds).toEqual(["tag", "measurement", "note", "observation"]);
  });
});

it.each([
  ["15  20", [15, 20]],
  ["1,5; 2.5", [1.5, 2.5]],
  ["", []],
  ["15 x", null],
])("numbers of %j", (text, numbers) => expect(numbersOf(text, metric, "m")).toEqual(numbers));

it("numbers typed in feet are stored in metres", () =>
  expect(numbersOf("10 20,5", customary, "m")?.map((n) => n.toFixed(4))).toEqual(["3.0480", "6.2484"]));

describe("a condition as it is known now", () => {
  it.each([
    [{ condition: "very_poor", condition_at_most: false, condition_in_winter: false }, "very poor"],
    [{ condition: "fair", condition_at_most: true, condition_in_winter: true }, "at most fair, winter view"],
    [{ condition: "", condition_at_most: true, condition_in_winter: true }, ""],
  ])("%j", (row, expected) => expect(conditionNow(row)).toBe(expected));
});
