import { expect, it } from "vitest";
import type { Entry } from "@/shared/records/reads";
import { recounted } from "./CorrectEntry";

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
