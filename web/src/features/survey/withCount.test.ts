import { expect, it } from "vitest";
import { withCount } from "./withCount";

const sign = "egg_mass_buff" as const;

it.each([
  ["a number alone", { number: 9 }, { number: 9 }],
  ["a number on its ground", { number: 9, over_m2: 100 }, { number: 9, over_m2: 100 }],
  ["ground without a number", { over_m2: 100 }, {}],
  ["a number that was taken out again", { number: null, over_m2: 100 }, {}],
  ["ground that was taken out again", { number: 9, over_m2: null }, { number: 9 }],
  [
    "none on the ground searched",
    { present: false, over_m2: 100 },
    { present: false, number: 0, over_m2: 100 },
  ],
  ["not there, no ground said", { present: false, number: 9 }, { present: false }],
])("%s", (_, given, stands) => {
  expect(withCount({ sign, ...given })).toEqual({ sign, ...stands });
});
