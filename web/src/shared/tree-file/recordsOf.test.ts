import { expect, it } from "vitest";
import type { OutboxItem } from "@/shared/outbox";
import type { Plant } from "@/shared/records/reads";
import { recordsOf } from "./recordsOf";

const server = {
  duplicates: ["twice"],
  visits: [
    {
      id: "v1",
      record: "tree",
      local_date: "2026-05-01",
      observed_at: "2026-05-01T09:00:00Z",
      mode: "field",
      entries: [{ id: "a", kind: "tag", body: { number: "7" }, received_at: "2026-05-01T10:00:00Z" }],
    },
    { id: "v2", record: "twice", local_date: "2026-05-02", observed_at: "2026-05-02T09:00:00Z", entries: [] },
  ],
} as unknown as Plant;

const item = (kind: string, id: string, body: object, state = "saved") =>
  ({ id, kind, state, body: { id, ...body } }) as unknown as OutboxItem;
const visit = (id: string, plant: string, state = "saved") =>
  item(
    "visit",
    id,
    {
      plant,
      local_date: "2026-06-01",
      observed_at: "2026-06-01T09:00:00Z",
      entries: [{ id: `${id} e`, kind: "tag", body: { number: "8" } }],
    },
    state,
  );

it("each visit stands under the id it was recorded under, what is not sent yet without a time of arrival", () => {
  const records = recordsOf("tree", server, [
    visit("own", "twice"),
    visit("v1", "tree", "sent"), // the server gave it back already
    visit("refused", "tree", "needs_attention"),
    visit("other", "another tree"),
    item("correction", "c", { kind: "tag", replaces: "a", body: { number: "9" } }),
  ]);
  expect(records.map((r) => [r.record, r.visits.map((v) => v.id)])).toEqual([
    ["tree", ["v1"]],
    ["twice", ["v2", "own"]],
  ]);
  const [told, corrected] = records[0]?.visits[0]?.entries ?? [];
  expect(told).toMatchObject({ id: "a", received_at: "2026-05-01T10:00:00Z" });
  expect(corrected).toEqual({ id: "c", kind: "tag", body: { number: "9" }, replaces: "a" });
  expect(records[1]?.visits[1]?.entries[0]).not.toHaveProperty("received_at");
});

it("a copy kept by the app before, which names no record, is the tree's own", () => {
  const [{ record: _record, ...visit }] = server.visits as [Plant["visits"][number]];
  const kept = { ...server, visits: [visit] } as unknown as Plant;
  expect(recordsOf("tree", kept, [])[0]?.visits.map((v) => v.id)).toEqual(["v1"]);
});

it("a tree the server does not know yet has what this device recorded of it", () => {
  expect(recordsOf("new", undefined, [visit("first", "new")])).toHaveLength(1);
  expect(recordsOf("new", undefined, [])).toEqual([{ record: "new", visits: [] }]);
});
