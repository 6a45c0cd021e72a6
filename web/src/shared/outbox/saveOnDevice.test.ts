// @vitest-environment happy-dom
import "fake-indexeddb/auto";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { saveOnDevice } from "./saveOnDevice";
import { draftKey, type ItemBody, store } from "./store";

const visit = { id: "v" } as ItemBody<"visit">;
const picture = { id: "p", sha256: "0", blob: new Blob(["x"]) };
const draft = { plant: "oak", entries: ["a", "b"] };
const drafts = async () => (await store.drafts.toArray()).map((d) => [d.key, d.draft]);
const counts = async () => [await store.items.count(), await store.photos.count()];

describe("what is saved on the device", () => {
  beforeEach(async () => {
    await Promise.all(store.tables.map((t) => t.clear()));
    await store.drafts.bulkPut([
      { key: draftKey("me", "oak"), owner: "me", draft },
      { key: draftKey("me", "elm"), owner: "me", draft: { plant: "elm" } },
    ]);
  });

  it("takes its draft with it, and no other", async () => {
    await saveOnDevice("me", "visit", visit, [picture], { plant: "oak", draft: null });
    expect(await counts()).toEqual([1, 1]);
    expect(await drafts()).toEqual([["me elm", { plant: "elm" }]]);
  });

  it("leaves what was only begun as the draft", async () => {
    await saveOnDevice("me", "visit", visit, [], { plant: "oak", draft: { plant: "oak", entries: ["b"] } });
    expect(await drafts()).toContainEqual(["me oak", { plant: "oak", entries: ["b"] }]);
  });

  it("leaves drafts alone where nothing is said of one", async () => {
    await saveOnDevice("me", "visit", visit);
    expect((await drafts()).length).toBe(2);
  });

  it.each(["items", "photos", "drafts"] as const)(
    "is whole or not at all: %s cannot be written",
    async (table) => {
      const full = vi.spyOn(store[table], table === "drafts" ? "delete" : "put").mockImplementation(() => {
        throw new DOMException("full", "QuotaExceededError");
      });
      await expect(
        saveOnDevice("me", "visit", visit, [picture], { plant: "oak", draft: null }),
      ).rejects.toThrow();
      full.mockRestore();
      expect(await counts()).toEqual([0, 0]);
      expect(await drafts()).toContainEqual(["me oak", draft]);
    },
  );
});
