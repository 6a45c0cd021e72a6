import { describe, expect, it } from "vitest";
import type { Proposed } from "@/shared/work/siteWork";
import { groupsOf } from "./groupsOf";

const row = (plant: string, rule: string, begins = "", caution = "") =>
  ({
    plant,
    only: [],
    proposal: {
      rule,
      do: "Cut.",
      note: "",
      cautions: caution ? [caution] : [],
      season: begins ? { begins, ends: "2027-03-31" } : null,
      checks: [],
    },
  }) as unknown as Proposed;

describe("proposals in groups", () => {
  it("are together only where everything that is shown of one holds for all", () => {
    const rows = [
      row("a", "R16"),
      row("b", "R16", "2026-11-01"), // an oak keeps its season
      row("c", "R16"),
      row("d", "R18"),
      row("e", "R16", "", "Brittle."),
    ];
    expect(groupsOf(rows).map((g) => g.rows.map((r) => r.plant))).toEqual([["a", "c"], ["b"], ["d"], ["e"]]);
  });
});
