import { expect, it } from "vitest";
import type { Visit } from "@/shared/records/reads";
import { pointsOf, standOf } from "./points";

const visit = (on: string, ...entries: object[]) =>
  ({
    local_date: on,
    entries: entries.map((e) => ({ stands: true, replaces: null, ...e })),
  }) as unknown as Visit;
const point = (id: string, more: object = {}) => ({ id, kind: "photo_point", body: { name: id }, ...more });
const photo = (id: string, shows: string, more: object = {}) => ({
  id,
  kind: "photo",
  body: { shows },
  ...more,
});

it("pictures stand with their point, oldest first, also where the point was corrected in between", () => {
  const visits = [
    visit("2026-06-01", photo("c", "gate 2"), photo("other", "hole")),
    visit("2024-06-01", point("gate", { stands: false }), photo("a", "gate")),
    visit(
      "2025-06-01",
      point("gate 2", { replaces: "gate" }),
      photo("b", "gate"),
      photo("gone", "gate", { stands: false }),
    ),
  ];
  const [only, ...more] = pointsOf(visits);
  expect(more).toEqual([]);
  expect(only?.id).toBe("gate 2");
  expect(only?.pictures).toEqual([
    { id: "a", on: "2024-06-01" },
    { id: "b", on: "2025-06-01" },
    { id: "c", on: "2026-06-01" },
  ]);
});

it("a point of the visit that is being written counts once it has a name", () => {
  const draft = [point("new"), { ...point("bare"), body: {} }] as never[];
  expect(pointsOf([], draft).map((p) => p.id)).toEqual(["new"]);
});

it.each([
  [{ name: "a", stand: "by the post", bearing_deg: 0 }, "by the post, looking 0°"],
  [{ name: "a", bearing_deg: 270.4 }, "looking 270°"],
  [{ name: "a" }, ""],
])("%o is found again: %s", (body, said) => expect(standOf(body)).toBe(said));
