import { describe, expect, it } from "vitest";
import { customary, metric } from "@/testing/samples";
import { sightedReadings, typedReadings } from "./heightWays";
import { readingsOf, typedOf, wayOf, wrongWith } from "./stemReadings";

describe("readings of stems", () => {
  it("one, several, circumferences and callipers, stored in cm with what was typed", () => {
    expect(readingsOf(["12.4"], "tape", customary)).toEqual({
      raw: { value: 12.4 * 2.54 },
      method: "taped",
      unit_entered: "in",
      as_entered: "12.4 in",
    });
    expect(readingsOf(["8", "4,5"], "tape", metric).raw).toEqual({ diameters_cm: [8, 4.5] });
    expect(readingsOf(["100"], "circumference", metric).raw).toEqual({ circumferences_cm: [100] });
    expect(readingsOf([["10", "12"]], "callipers", customary)).toMatchObject({
      raw: { callipers_cm: [[25.4, 12 * 2.54]] },
      as_entered: "10 x 12 in",
      method: "instrument",
    });
    expect(readingsOf(["14"], "eye", metric).method).toBe("estimated");
  });

  it("come back as they were typed", () => {
    for (const units of [metric, customary])
      for (const way of ["tape", "circumference", "eye"] as const)
        for (const typed of [["12.4"], ["8", "4.5", "0.7"]]) {
          const body = { quantity: "dbh_cm" as const, ...readingsOf(typed, way, units) };
          expect([typedOf(body, units), wayOf(body)]).toEqual([typed, way]);
        }
    expect(typedOf(undefined, metric)).toEqual([]);
  });

  it.each([
    ["", "tape", "nothing is no diameter; from 0.1 to 1500 cm is allowed."],
    ["99999", "circumference", "99999 is no circumference; from 0.1 to 4712 cm is allowed."],
    ["x", "eye", "x is no diameter; from 0.1 to 1500 cm is allowed."],
    ["12.4", "tape", ""],
  ] as const)("%j by %s: %j", (typed, way, wrong) => expect(wrongWith(typed, way, metric)).toBe(wrong));

  it("the bounds are said in the unit one types in", () =>
    expect(wrongWith("600", "tape", customary)).toBe("600 is no diameter; from 0.039 to 590 in is allowed."));
});

describe("readings of a height", () => {
  const typed = { distance_m: "66", top: "38", base: "-4" };

  it("distances in the unit of the site, angles as they are", () => {
    expect(sightedReadings("angles", typed, "percent", true, customary)).toEqual({
      raw: {
        angles: { distance_m: 66 * 0.3048, top: 38, base: -4, angle_unit: "percent", slope_distance: true },
      },
      as_entered: "distance 66 ft, top 38 per cent, base -4 per cent",
    });
    expect(
      sightedReadings("stick", { distance_m: "20", stick_cm: "30", arm_cm: "60" }, "degrees", false, metric),
    ).toMatchObject({ raw: { stick: { distance_m: 20, stick_cm: 30, arm_cm: 60 } } });
  });

  it("one that is missing or no number is named with its unit", () => {
    expect(sightedReadings("angles", { ...typed, top: "" }, "degrees", false, customary)).toBe(
      "Top (degrees): nothing is no number.",
    );
    expect(sightedReadings("angles", { ...typed, distance_m: "x" }, "degrees", false, customary)).toBe(
      "Distance (ft): x is no number.",
    );
  });

  it("come back as they were typed", () => {
    const read = sightedReadings("angles", typed, "degrees", false, customary);
    const given = typeof read === "string" ? {} : { ...read.raw.angles };
    expect(typedReadings("angles", given, customary)).toEqual(typed);
  });
});
