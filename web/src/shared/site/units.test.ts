import { describe, expect, it } from "vitest";
import { customary, metric } from "@/testing/samples";
import { labelIn } from "./units";

// Exact by definition: 1 in = 2.54 cm, 1 ft = 0.3048 m, 1 acre = 0.40468564224 ha (NIST SP 811, appendix B).
describe("units of a site", () => {
  it.each([
    [31.496, "cm", "31.5 cm", "12.4 in"],
    [20, "m", "20.0 m", "65.6 ft"],
    [1, "ha", "1.00 ha", "2.47 acres"],
    [25, "m2_per_ha", "25.0 m²/ha", "108.9 ft²/acre"],
    [617.76, "per_ha", "618 per ha", "250 per acre"],
    [25, "%", "25.0 %", "25.0 %"],
  ])("%f %s", (value, si, inMetric, inCustomary) => {
    expect(metric.shown(value, si)).toBe(inMetric);
    expect(customary.shown(value, si)).toBe(inCustomary);
  });

  it.each([
    ["12.4", "cm", 12.4, 31.496],
    ["12,4", "cm", 12.4, 31.496],
    ["66", "m", 66, 20.1168],
    ["-3", "", -3, -3],
  ])("%j typed for what is stored in %j", (typed, si, inMetric, inCustomary) => {
    expect(metric.read(typed, si)).toBeCloseTo(inMetric, 10);
    expect(customary.read(typed, si)).toBeCloseTo(inCustomary, 10);
  });

  it("what is no number is none in any unit", () => {
    for (const bad of ["", "12 cm", "1.2.3", "1e5"]) expect(customary.read(bad, "cm")).toBeNull();
  });

  it("what was typed to a thousandth comes back as it was typed", () => {
    for (let tenths = 1; tenths < 3000; tenths += 7) {
      const typed = String(tenths / 10);
      expect(customary.typed(customary.read(typed, "cm") ?? 0, "cm")).toBe(typed);
      expect(customary.typed(customary.read(typed, "m") ?? 0, "m")).toBe(typed);
    }
  });

  it("a label names the unit of the site", () => {
    expect(labelIn(customary, "Core length (cm)", "cm")).toBe("Core length (in)");
    expect(labelIn(customary, "Time frame (years)", "years")).toBe("Time frame (years)");
    expect(labelIn(metric, "Part", undefined)).toBe("Part");
  });
});
