import { expect, it } from "vitest";
import { readNumber } from "./numbers";

it.each([
  ["33.5", 33.5],
  ["33,5", 33.5],
  [" 12 ", 12],
  ["-4", -4],
  ["", null],
  ["1.2.3", null],
  ["12 cm", null],
  ["1e5", null],
])("%j is read as %s", (typed, number) => expect(readNumber(typed)).toBe(number));
