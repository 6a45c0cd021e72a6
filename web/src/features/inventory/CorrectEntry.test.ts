import { expect, it } from "vitest";
import type { Entry } from "@/shared/records/reads";
import { customary, metric } from "@/testing/samples";
import { recounted, reentered } from "./CorrectEntry";

const measured = (thinner: number) =>
  ({
    kind: "measurement",
    body: { quantity: "dbh_cm", raw: { diameters_cm: [20, 15, 3, 2] }, least_cm: 5, thinner },
  }) as unknown as Entry;

it("stems that were read as thinner are counted anew from the corrected readings", () => {
  expect(recounted(measured(2), { raw: { diameters_cm: [20, 15] }, thinner: 2 })).not.toHaveProperty(
    "thinner",
  );
});

it("a count entered by hand stays, and so does one that is corrected itself", () => {
  expect(recounted(measured(7), { raw: {}, thinner: 7 })).toHaveProperty("thinner", 7);
  expect(recounted(measured(2), { raw: {}, thinner: 4 })).toHaveProperty("thinner", 4);
});

const asTyped = (raw: object, units = metric) =>
  reentered(measured(0), { raw, as_entered: "20 cm", unit_entered: "cm" }, "cm", units);

it("a corrected reading is recorded as it was typed, in the units of the site", () => {
  expect(asTyped({ value: 12.4 * 2.54 }, customary)).toMatchObject({
    unit_entered: "in",
    as_entered: "12.4 in",
  });
  expect(asTyped({ diameters_cm: [20, 15.5] })).toMatchObject({
    unit_entered: "cm",
    as_entered: "20 cm; 15.5 cm",
  });
});

it("what no decimal of the site's unit can say is recorded without what was typed", () => {
  expect(asTyped({ diameters_cm: [20, 15.123] }, customary)).not.toHaveProperty("as_entered");
  expect(asTyped({ callipers_cm: [[20, 15]] })).not.toHaveProperty("as_entered");
});

it("readings that are not touched keep what was typed", () =>
  expect(asTyped({ diameters_cm: [20, 15, 3, 2] })).toHaveProperty("as_entered", "20 cm"));
