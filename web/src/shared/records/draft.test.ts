import { describe, expect, it } from "vitest";
import { draft, site } from "@/testing/samples";
import {
  caseOf,
  emptyDraft,
  halfFilled,
  observationsWeighed,
  photographsOf,
  saysSomething,
  visitOf,
  withMeasurement,
  withOne,
} from "./draft";
import { type EntryIn, entriesOf, entryOf, measurementOf, withEntry, withoutEntry } from "./entries";

const bare = emptyDraft("p", "b", "2026-10-20", "street", "planted", "mature");
const entry = (kind: string, body: object): EntryIn => ({ id: kind, kind, body }) as EntryIn;
const kindsOf = (entries: EntryIn[]) => entries.map((e) => e.kind);

describe("a draft", () => {
  it("says nothing while it is empty, or holds sheets that were opened and left empty", () => {
    expect(saysSomething(bare)).toBe(false);
    for (const left of [
      entry("tag", { number: "" }),
      entry("note", { text: "  " }),
      entry("risk", { rows: [] }),
      entry("condition", { leafless: true }),
      entry("condition", { parts: {} }),
    ])
      expect(saysSomething({ ...bare, entries: [left] }), JSON.stringify(left)).toBe(false);
    expect(saysSomething({ ...bare, entries: [entry("condition", { flare: "buried" })] })).toBe(true);
  });

  it("holds a risk worksheet back until every question of it is answered", () => {
    const whole = {
      rows: [{ part: "stem", target: "road", failure: "possible", impact: "low", consequence: "minor" }],
      years: 1,
      level: "basic",
      base_seen: "partly",
      crown_seen: "whole",
      no_next: true,
    };
    const holding = (body: object) => ({ ...bare, entries: [entry("risk", body)] });
    expect(halfFilled(holding(whole))).toEqual([]);
    expect(saysSomething(holding(whole))).toBe(true);
    for (const part of [
      { years: 0 },
      { level: "" },
      { base_seen: "" },
      { crown_seen: "" },
      { no_next: false },
      { rows: [] },
      ...["part", "target", "failure", "impact", "consequence"].map((key) => ({
        rows: [...whole.rows, { ...whole.rows[0], [key]: "" }],
      })),
    ]) {
      const half = holding({ ...whole, ...part });
      expect(halfFilled(half)[0]?.kind, JSON.stringify(part)).toBe("risk");
      expect(saysSomething(half)).toBe(false);
      expect(visitOf(half, site).entries).toEqual([]);
    }
    expect(halfFilled(holding({ ...whole, no_next: false, next_inspection: "2027-01-01" }))).toEqual([]);
  });

  it("holds one entry of a kind that there is one of, under the same id however often it is changed", () => {
    const first = { ...bare, ...withOne(bare, "note", { text: "a" }) };
    const second = { ...first, ...withOne(first, "note", { text: "b" }) };
    expect(entriesOf(second, "note").map((e) => e.body.text)).toEqual(["b"]);
    expect(entryOf(second, "note")?.id).toBe(entryOf(first, "note")?.id);
    expect({ ...second, ...withOne(second, "note", null) }.entries).toEqual([]);
  });

  it("holds one diameter, wherever on the stem it is taken", () => {
    const dbh = {
      ...bare,
      ...withMeasurement(bare, { quantity: "dbh_cm", raw: { value: 30 } }, "dbh_cm", "drc_cm"),
    };
    const next = withMeasurement(dbh, { quantity: "drc_cm", raw: { value: 33 } }, "dbh_cm", "drc_cm");
    expect(entriesOf({ entries: next.entries ?? [] }, "measurement").map((m) => m.body.quantity)).toEqual([
      "drc_cm",
    ]);
    expect(measurementOf({ entries: next.entries ?? [] }, "dbh_cm")).toBeUndefined();
  });

  it("replaces in place and takes out by id", () => {
    const [a, b] = [entry("note", { text: "a" }), entry("tag", { number: "1" })];
    expect(kindsOf(withEntry([a, b], { ...a }))).toEqual(["note", "tag"]);
    expect(kindsOf(withoutEntry([a, b], "note"))).toEqual(["tag"]);
    expect(withoutEntry([a, b], undefined)).toHaveLength(2);
  });
});

describe("the visit a draft becomes", () => {
  const visit = visitOf(draft, site);
  const entries = visit.entries ?? [];

  it("carries every entry of the draft but a half-filled worksheet and photographs whose files are not here", () => {
    const left = ["photo", "risk"];
    expect(new Set(kindsOf(entries))).toEqual(
      new Set(kindsOf(draft.entries).filter((k) => !left.includes(k))),
    );
    expect(photographsOf(draft)).toEqual([]);
    const pictures = [{ id: entriesOf(draft, "photo")[0]?.id ?? "", blob: new Blob(["x"]) }];
    expect(kindsOf(visitOf({ ...draft, pictures }, site).entries ?? [])).toContain("photo");
  });

  it("says by which conventions of the site its diameter was taken", () => {
    const size = entriesOf({ entries }, "measurement")[0]?.body;
    expect(size).toMatchObject({ combine: "largest_plus_half", least_cm: 5, at_height_m: 1.3 });
    expect(size?.raw).toEqual({ circumferences_cm: [94.2, 60] });
  });

  it("names the observations the name rests on, earlier ones with them", () => {
    const ids = observationsWeighed(draft).map((o) => o.id);
    expect(ids).toHaveLength(3);
    expect(entryOf({ entries }, "determination")?.body.observations).toEqual(ids);
  });

  it("leaves out what is judged in leaf when the tree is out of leaf", () => {
    const bareTree = {
      ...bare,
      entries: [
        entry("condition", { word: "fair", leafless: true }),
        { ...entry("measurement", { quantity: "dieback_pct", raw: { value: 10 } }), id: "1" },
        { ...entry("measurement", { quantity: "height_m", raw: { value: 10 } }), id: "2" },
      ],
    };
    expect(kindsOf(visitOf(bareTree, site).entries ?? [])).toEqual(["condition", "measurement"]);
  });

  it("records what was seen of the base where nothing was graded", () => {
    const seen = { ...bare, entries: [entry("condition", { base_visible: "partly" })] };
    expect(visitOf(seen, site).entries?.[0]?.body).toEqual({
      base_visible: "partly",
      word: "not_seen",
    });
  });
});

it("an earlier observation gives way to one made anew, and keeps its own day and every field", () => {
  const earlier = [
    { id: "e", character: "leaf.base", states: ["unequal"], k: 3, n: 8, on: "2025-10-01" },
    {
      id: "f",
      character: "bark.texture",
      states: ["smooth"],
      absent: ["scaly"],
      where: "breast" as const,
      on: "2025-10-01",
    },
  ];
  const anew: EntryIn = {
    id: "n",
    kind: "observation",
    body: { character: "leaf.base", states: ["cordate"] },
  };
  const weighed = observationsWeighed({ entries: [anew], earlier });
  expect(weighed.map((o) => o.id)).toEqual(["f", "n"]);
  const given = caseOf({ ...bare, entries: [anew], earlier }, undefined);
  expect(given.observations).toEqual([
    {
      id: "f",
      character: "bark.texture",
      states: ["smooth"],
      absent: ["scaly"],
      where: "breast",
      on: "2025-10-01",
    },
    { id: "n", character: "leaf.base", states: ["cordate"] },
  ]);
});

describe("an inspection", () => {
  const seen = { base_visible: "all_round", crown_visible: "whole" } as const;
  it.each([
    [{ level: "limited_visual" }, true],
    [{ level: "basic", ...seen }, true],
    [{ level: "advanced", ...seen }, true],
    [{ level: "basic", base_visible: "all_round" }, false],
    [{ level: "basic", crown_visible: "whole" }, false],
    [{ level: "advanced" }, false],
  ] as const)("%o is recorded: %s", (body, recorded) => {
    const draft = { ...emptyDraft("p", "b", "2026-05-04", "street", "planted", "mature") };
    const holding = { ...draft, entries: [{ id: "e", kind: "inspection", body }] } as typeof draft;
    expect(saysSomething(holding)).toBe(recorded);
    expect(halfFilled(holding).map((e) => e.kind)).toEqual(recorded ? [] : ["inspection"]);
  });
});
