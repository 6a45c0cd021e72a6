import { expect, it } from "vitest";
import type { Row } from "@/shared/records/reads";
import { inWalkingOrder, nextNearest } from "./round";

const M = 1 / 111_320; // degrees of latitude to the metre
const tree = (id: string, north: number, east: number, more: object = {}): Row =>
  ({
    id,
    tag: id,
    form: "tree",
    life: "alive",
    lat: 45 + north * M,
    lon: (east * M) / Math.SQRT1_2,
    ...more,
  }) as Row;

const here = tree("0", 0, 0);

it("the nearest that is left comes next, with the way to it", () => {
  const rows = [here, tree("far", 0, 40), tree("near", 10, 0), tree("done", 1, 0)];
  const ahead = nextNearest(rows, ["0", "done"], here);
  expect(ahead?.row.id).toBe("near");
  expect(ahead?.metres).toBeCloseTo(10, 3);
  expect(ahead?.towards).toBe("north");
});

it.each([
  [1, 0, "north"],
  [1, 1, "north-east"],
  [0, 1, "east"],
  [-1, 1, "south-east"],
  [-1, 0, "south"],
  [-1, -1, "south-west"],
  [0, -1, "west"],
  [1, -1, "north-west"],
])("%i north and %i east is %s", (north, east, wind) =>
  expect(nextNearest([tree("a", north * 10, east * 10)], [], here)?.towards).toBe(wind),
);

it("what is gone, and what is no tree, is passed by", () => {
  const gone = ["removed", "not_found"].map((life) => tree(life, 1, 0, { life }));
  expect(nextNearest([...gone, tree("hedge", 1, 0, { form: "group" })], [], here)).toBeNull();
  expect(nextNearest([...gone, tree("stump", 2, 0, { life: "stump" })], [], here)?.row.id).toBe("stump");
});

it("without a place one sets out by tag, at a tree that has one", () => {
  const rows = [tree("", 0, 0, { id: "x", tag: "" }), tree("0102", 5, 0), tree("0101", 9, 0)];
  const ahead = nextNearest(rows, [], undefined);
  expect([ahead?.row.tag, ahead?.metres, ahead?.towards]).toEqual(["0101", null, ""]);
});

it("with nothing left there is no next", () => expect(nextNearest([here], ["0"], here)).toBeNull());

it("a planned round keeps its order, passes by what is not in the block, and ends", () => {
  const rows = [tree("a", 0, 0), tree("b", 1, 0), tree("c", 90, 0)];
  const order = ["c", "elsewhere", "a"];
  expect(nextNearest(rows, [], here, order)?.row.id).toBe("c");
  expect(nextNearest(rows, ["c"], here, order)?.row.id).toBe("a");
  expect(nextNearest(rows, ["c", "a"], here, order)).toBeNull();
});

it("the walking order holds every tree once, nearest after nearest", () => {
  const rows = [tree("3", 30, 0), tree("1", 0, 0), tree("2", 9, 0), tree("4", 31, 4)];
  expect(inWalkingOrder(rows).map((r) => r.id)).toEqual(["1", "2", "3", "4"]);
  expect(inWalkingOrder([])).toEqual([]);
});
