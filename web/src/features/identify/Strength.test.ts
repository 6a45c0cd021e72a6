import { expect, it } from "vitest";
import { expectedOf, strengthOf } from "./Strength";

// Jeffreys (1961), Theory of Probability, appendix B: odds of 10 and of √10 to one
it.each([
  [Math.log2(10.01), "strong"],
  [Math.log2(9.99), "fair"],
  [-Math.log2(3.17), "fair"],
  [Math.log2(3.15), "weak"],
  [0.5, "weak"],
  [0.49, "none"],
  [0, "none"],
])("%f bits are %s", (bits, word) => expect(strengthOf(bits)).toBe(word));

it.each([
  [0.5, "tells much"],
  [0.49, "tells something"],
  [0.15, "tells something"],
  [0.1, "tells little"],
])("%f bits expected: %s", (bits, words) => expect(expectedOf(bits)).toBe(words));
