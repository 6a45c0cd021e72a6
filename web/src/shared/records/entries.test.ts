import { describe, expect, it } from "vitest";
import { type EntryIn, isInFile, missingIn, withEdited } from "./entries";

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

describe("two changes of a form before it is drawn anew", () => {
  const cable = (body: object) => ({ id: "1", kind: "hardware", body }) as unknown as EntryIn;

  it.each([
    [
      "that fill two fields",
      {},
      [{ hardware: "cable" }, { state: "ingrown" }],
      { hardware: "cable", state: "ingrown" },
    ],
    [
      "of which one empties a field",
      { hardware: "cable", state: "loose" },
      [{ hardware: "rod", state: "loose" }, { hardware: "cable" }],
      { hardware: "rod" },
    ],
    ["of one field", { state: "loose" }, [{ state: "sound" }, { state: "broken" }], { state: "broken" }],
  ])("both hold: %s", (_, first, changes, last) => {
    const shown = [cable(first)];
    const stored = changes.reduce((now, next) => withEdited(now, shown, cable(next)), shown);
    expect(stored).toEqual([cable(last)]);
  });

  it("and an entry that is new is put as it is", () => {
    expect(withEdited([], [], cable({}))).toEqual([cable({})]);
  });
});
