import { describe, expect, it } from "vitest";
import { customary, metric, vocabulary } from "@/testing/samples";
import { drawingOf, sentenceOf } from "./stemForm";

const form = (id: string) => {
  const found = vocabulary.stem_forms.find((f) => f.id === id);
  if (!found) throw new Error(id);
  return found;
};

describe("where the tape goes", () => {
  it.each([
    ["upright", {}, "Measure at 1.37 m above the ground"],
    ["slope", {}, "on the uphill side"],
    ["slope", { slope_from: "average" }, "the average of the ground"],
    ["fork_below", { fork_by: "pith" }, "The fork (where the piths meet) is below 1.37 m"],
    ["fork_below", { limbs_as: "own_stems" }, "The limbs are each a stem of its own."],
    ["fork_below", { low_fork: "narrowest_below" }, "narrowest place below the fork"],
  ])("%s by %j", (id, rules, said) => {
    expect(sentenceOf(form(id), "1.37 m", rules, vocabulary, metric)).toContain(said);
  });

  it("leaves nothing in braces, in any form by any rule, and gives lengths in the units of the site", () => {
    for (const f of vocabulary.stem_forms)
      for (const word of [undefined, ...Object.keys(f.rules)])
        expect(sentenceOf(f, "4.5 ft", word ? { [f.by]: word } : {}, vocabulary, customary)).not.toMatch(
          /[{}]/,
        );
    expect(sentenceOf(form("fork_below"), "4.5 ft", {}, vocabulary, customary)).toContain(
      "3.50 ft above the fork",
    );
  });

  it("is drawn by the rule that is chosen, else by the usual one", () => {
    expect(drawingOf(form("swelling"), {})).toBe("swelling above");
    expect(drawingOf(form("swelling"), { swelling: "below" })).toBe("swelling below");
    expect(drawingOf(form("upright"), { swelling: "below" })).toBe("upright");
  });
});
