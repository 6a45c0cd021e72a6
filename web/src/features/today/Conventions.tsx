import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, unwrap } from "@/api/client";
import { RecordForm } from "@/shared/records/RecordForm";
import { type Site, useVocabulary } from "@/shared/records/reads";
import { InSite } from "@/shared/site/InSite";
import { MeasuringRules } from "@/shared/site/MeasuringRules";
import { Button, Dialog, Notice } from "@/shared/ui";

type Given = Schemas["ConventionsIn"];

/** How the figures of a site are taken from now on. What was measured keeps the convention it was measured by. */
export function Conventions({ site }: { site: Site }) {
  const client = useQueryClient();
  const described = useVocabulary().data;
  const conventions = described?.records.conventions ?? [];
  const own = Object.fromEntries(conventions.map((c) => [c.id, site[c.id as keyof Site]]));
  const [open, setOpen] = useState(false);
  const [draft, setDraft] = useState<Record<string, unknown>>(own);
  const [wrong, setWrong] = useState("");
  const every = conventions.find((c) => c.id === "survey_steps")?.of?.words ?? [];
  const chosen = (draft["survey_steps"] as string[] | undefined) ?? [];
  const steps = chosen.length ? chosen : every.map((w) => w.id);
  const order = (next: string[]) => setDraft({ ...draft, survey_steps: next });
  const earlier = (i: number) => {
    const next = [...steps];
    const [moved] = next.splice(i, 1);
    if (moved) next.splice(i - 1, 0, moved);
    order(next);
  };
  const save = async () => {
    try {
      unwrap(
        await api.PATCH("/api/sites/{site_id}/conventions/", {
          params: { path: { site_id: site.id } },
          body: draft as Given,
        }),
      );
      await client.invalidateQueries({ queryKey: ["sites"] });
      setOpen(false);
    } catch (error) {
      setWrong(error instanceof Error ? error.message : "The conventions were not saved.");
    }
  };
  return (
    <>
      <button
        type="button"
        className="min-h-[44px] text-sm text-slate underline"
        onClick={() => {
          setDraft(own);
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
          {described && (
            <InSite site={site}>
              <RecordForm
                fields={conventions.filter((c) => c.id !== "survey_steps")}
                value={draft}
                onChange={setDraft}
                vocabulary={described}
              />
              <MeasuringRules vocabulary={described} rules={draft} />
            </InSite>
          )}
          <fieldset>
            <legend className="mb-1 text-sm text-soft">Order of the survey</legend>
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
                      onClick={() => earlier(i)}
                    >
                      earlier
                    </Button>
                    <Button
                      weight="quiet"
                      disabled={steps.length < 2}
                      aria-label={`${s}: leave it out`}
                      onClick={() => order(steps.filter((x) => x !== s))}
                    >
                      leave out
                    </Button>
                  </span>
                </li>
              ))}
            </ol>
            {steps.length < every.length && (
              <Button weight="quiet" onClick={() => order([])}>
                All steps, in the usual order
              </Button>
            )}
          </fieldset>
          {wrong && <Notice kind="refused">{wrong}</Notice>}
          <Button weight="act" onClick={() => void save()}>
            Save conventions
          </Button>
        </div>
      </Dialog>
    </>
  );
}
