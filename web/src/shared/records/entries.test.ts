import { describe, expect, it } from "vitest";
import { type EntryIn, isInFile, missingIn } from "./entries";

describe("an entry of a tree's file", () => {
  it.each([
    ["headroom", {}, ["over", "clear_m"]],
    ["headroom", { over: "road" }, ["clear_m"]],
    ["headroom", { over: "road", clear_m: 0 }, []], // the crown lies on the road
    ["works", { works: "trench", distance_m: 0 }, []],
    ["climber", { climber: "" }, ["climber"]],
    ["sample", { number: "7" }, ["part"]],
  ] as const)("%s %o lacks %o", (kind, body, missing) => {
    expect(missingIn(kind, body)).toEqual(missing);
    expect(isInFile({ id: "1", kind, body } as unknown as EntryIn)).toBe(missing.length === 0);
  });

  it("is of no other kind", () => {
    expect(isInFile({ id: "1", kind: "note", body: { text: "x" } } as EntryIn)).toBe(false);
  });
});
