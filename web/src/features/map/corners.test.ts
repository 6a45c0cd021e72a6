import { describe, expect, it } from "vitest";
import { around, asLines, type Corner, polygonsOf, readLines } from "./corners";

const RING: Corner[] = [
  [-79.3, 40.5],
  [-79.299, 40.5],
  [-79.299, 40.501],
];

describe("corners of a block", () => {
  it("are written latitude first and read back the same", () => {
    expect(asLines(RING).split("\n")[0]).toBe("40.500000, -79.300000");
    expect(readLines(asLines(RING))).toEqual(RING);
    expect(readLines("\n40.5 -79.3\n\n40.5;-79.299\n")).toEqual(RING.slice(0, 2));
    expect(readLines("")).toEqual([]);
  });

  it.each([
    ["40.5, -79.3\nhere", 2],
    ["40.5", 1],
    ["91, 0", 1],
    ["0, 181", 1],
    ["1, 2, 3", 1],
    ["40.5, -79.3\n\n40.5, x", 3],
  ])("say which line is none: %j", (text, line) => {
    expect(readLines(text)).toBe(line);
  });

  it("are closed to a polygon", () => {
    expect(around(RING).coordinates).toEqual([[...RING, RING[0]]]);
    expect(around([]).coordinates).toEqual([[]]);
  });
});

describe("polygons of a file (RFC 7946)", () => {
  const polygon = { type: "Polygon", coordinates: around(RING).coordinates };

  it("are found in features, collections and several at once, with their names", () => {
    const file = {
      type: "FeatureCollection",
      features: [
        { type: "Feature", properties: { name: "Lawn" }, geometry: polygon },
        { type: "Feature", properties: null, geometry: { type: "Point", coordinates: [0, 0] } },
        {
          type: "Feature",
          properties: { Name: "Wood" },
          geometry: { type: "MultiPolygon", coordinates: [polygon.coordinates, polygon.coordinates] },
        },
        { type: "Feature", properties: {}, geometry: { type: "GeometryCollection", geometries: [polygon] } },
      ],
    };
    expect(polygonsOf(JSON.stringify(file)).map((p) => p.name)).toEqual(["Lawn", "Wood 1", "Wood 2", ""]);
    expect(polygonsOf(JSON.stringify(polygon))[0]?.boundary).toEqual(polygon);
  });

  it.each(["", "no json", "[]", "null", '{"type": "Point", "coordinates": [0, 0]}', '{"type": "Feature"}'])(
    "that are not there are said: %j",
    (text) => {
      expect(() => polygonsOf(text)).toThrow(/no JSON|no polygon/);
    },
  );
});
