import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, unwrap } from "@/api/client";
import { BREAST_HEIGHTS_M } from "@/shared/records/breastHeights";
import type { Site } from "@/shared/records/reads";
import { Button, Choice, Dialog, Field, Notice, Select } from "@/shared/ui";

const STEPS = ["where", "name", "diameter", "height", "crown", "condition", "signs", "notes"];
const SHOOTS = [
  { id: "squares", label: "root of the sum of squares" },
  { id: "squares_then_mean", label: "root of the sum of squares; over five stems from their mean" },
  { id: "largest_plus_half", label: "largest plus half the rest" },
];
const ZONES = [
  { id: "bs5837", label: "12 × diameter, at most 15 m (BS 5837)" },
  { id: "as4970", label: "12 × diameter, 2 to 15 m (AS 4970)" },
  { id: "foot_per_inch", label: "1 ft for each inch" },
  { id: "foot_and_half_per_inch", label: "1.5 ft for each inch" },
];

/** How the figures of a site are taken from now on. What was measured keeps the convention it was measured by. */
export function Conventions({ site }: { site: Site }) {
  const client = useQueryClient();
  const [open, setOpen] = useState(false);
  const [draft, setDraft] = useState(site);
  const [wrong, setWrong] = useState("");
  const set = (part: Partial<Site>) => setDraft({ ...draft, ...part });
  const steps = draft.walk_steps.length ? draft.walk_steps : STEPS;
  const move = (i: number, by: number) => {
    const next = [...steps];
    const [moved] = next.splice(i, 1);
    if (moved) next.splice(i + by, 0, moved);
    set({ walk_steps: next });
  };
  const keep = async () => {
    try {
      unwrap(
        await api.PATCH("/api/sites/{site_id}/conventions/", {
          params: { path: { site_id: site.id } },
          body: {
            breast_height_m: draft.breast_height_m,
            several_shoots: draft.several_shoots,
            smallest_cm: Number(draft.smallest_cm),
            protection: draft.protection,
            condition_scale: draft.condition_scale,
            walk_steps: draft.walk_steps,
          },
        }),
      );
      await client.invalidateQueries({ queryKey: ["sites"] });
      setOpen(false);
    } catch (error) {
      setWrong(error instanceof Error ? error.message : "The conventions were not kept.");
    }
  };
  return (
    <>
      <button
        type="button"
        className="min-h-[44px] text-sm text-slate underline"
        onClick={() => {
          setDraft(site);
          setWrong("");
          setOpen(true);
        }}
      >
        Conventions
      </button>
      <Dialog open={open} onOpenChange={setOpen} title={`Conventions of ${site.name}`}>
        <div className="grid gap-4">
          <p className="text-sm text-soft">
            They hold from now on. Figures already taken keep the height and rule they were taken by, and
            comparisons across two heights are flagged.
          </p>
          <Choice
            label="Breast height"
            value={draft.breast_height_m.toFixed(2)}
            onChange={(v) => set({ breast_height_m: Number(v) })}
            options={BREAST_HEIGHTS_M.map((h) => ({ id: h.toFixed(2), label: `${h.toFixed(2)} m` }))}
          />
          <Select
            label="Several shoots as one"
            value={draft.several_shoots}
            onChange={(e) => set({ several_shoots: e.target.value as Site["several_shoots"] })}
          >
            {SHOOTS.map((o) => (
              <option key={o.id} value={o.id}>
                {o.label}
              </option>
            ))}
          </Select>
          <Field
            label="Least diameter that is measured (cm); thinner stems are counted"
            inputMode="decimal"
            value={String(draft.smallest_cm)}
            onChange={(e) => set({ smallest_cm: e.target.value as never })}
          />
          <Select
            label="Root protection around a tree"
            value={draft.protection}
            onChange={(e) => set({ protection: e.target.value as Site["protection"] })}
          >
            {ZONES.map((o) => (
              <option key={o.id} value={o.id}>
                {o.label}
              </option>
            ))}
          </Select>
          <Choice
            label="Condition is shown as"
            value={draft.condition_scale ?? "words"}
            onChange={(v) => set({ condition_scale: v as Site["condition_scale"] })}
            options={[
              { id: "words", label: "words" },
              { id: "five_points", label: "five points" },
              { id: "percent", label: "per cent" },
            ]}
          />
          <fieldset>
            <legend className="mb-1 text-sm text-soft">Order of the sheet</legend>
            <ol className="border-t border-rule">
              {steps.map((s, i) => (
                <li key={s} className="flex items-center justify-between border-b border-rule">
                  <span>
                    {i + 1}. {s}
                  </span>
                  <span className="flex gap-1">
                    <Button
                      weight="quiet"
                      disabled={i === 0}
                      aria-label={`${s} earlier`}
                      onClick={() => move(i, -1)}
                    >
                      earlier
                    </Button>
                    <Button
                      weight="quiet"
                      disabled={steps.length < 2}
                      aria-label={`${s}: leave it out`}
                      onClick={() => set({ walk_steps: steps.filter((x) => x !== s) })}
                    >
                      leave out
                    </Button>
                  </span>
                </li>
              ))}
            </ol>
            {steps.length < STEPS.length && (
              <Button weight="quiet" onClick={() => set({ walk_steps: [] })}>
                All steps, in the usual order
              </Button>
            )}
          </fieldset>
          {wrong && <Notice kind="refused">{wrong}</Notice>}
          <Button weight="act" onClick={() => void keep()}>
            Save conventions
          </Button>
        </div>
      </Dialog>
    </>
  );
}
