import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, unwrap } from "@/api/client";
import { type Body, RecordForm } from "@/shared/records/RecordForm";
import type { Vocabulary } from "@/shared/records/reads";
import { Button, Notice, PageState } from "@/shared/ui";
import { useWorkSettings, type WorkSettings } from "./usePlan";

interface Props {
  site: string;
  vocabulary: Vocabulary;
  mayChange: boolean;
}

/** What the year is planned with: crews, licences, weather, rates, money. */
export function CrewsAndRates({ site, vocabulary, mayChange }: Props) {
  const read = useWorkSettings(site);
  if (!read.data) return <PageState error={read.error} what="crews and rates" />;
  return mayChange ? (
    <SettingsForm site={site} settings={read.data} vocabulary={vocabulary} />
  ) : (
    <Shown settings={read.data} />
  );
}

function SettingsForm({
  site,
  settings,
  vocabulary,
}: {
  site: string;
  settings: WorkSettings;
  vocabulary: Vocabulary;
}) {
  const client = useQueryClient();
  const [draft, setDraft] = useState<Body>({ ...settings });
  const [said, setSaid] = useState<{ kind: "refused" | "plain"; text: string } | null>(null);
  const save = async () => {
    try {
      unwrap(
        await api.PUT("/api/sites/{site_id}/work/settings/", {
          params: { path: { site_id: site } },
          body: draft as WorkSettings,
        }),
      );
      await client.invalidateQueries({ queryKey: ["work settings", site] });
      await client.invalidateQueries({ queryKey: ["site work", site] });
      setSaid({ kind: "plain", text: "Saved. Plan the year again to use them." });
    } catch (error) {
      setSaid({ kind: "refused", text: error instanceof Error ? error.message : "They were not saved." });
    }
  };
  return (
    <section aria-label="Crews and rates" className="grid max-w-3xl gap-4">
      <p className="text-sm text-soft">
        Hours come from the tool's table by what is done and by diameter, common practice from memory; set a
        share of them, or a job's own hours.
      </p>
      <div className="grid gap-4 sm:grid-cols-2 [&>fieldset]:sm:col-span-2">
        <RecordForm
          fields={vocabulary.records.office["work_settings"] ?? []}
          value={draft}
          onChange={setDraft}
          vocabulary={vocabulary}
        />
      </div>
      {said?.kind === "refused" && <Notice kind="refused">{said.text}</Notice>}
      {said?.kind === "plain" && <p role="status">{said.text}</p>}
      <Button weight="act" className="justify-self-start" onClick={() => void save()}>
        Save crews and rates
      </Button>
    </section>
  );
}

function Shown({ settings }: { settings: WorkSettings }) {
  const crews = settings.crews ?? [];
  return (
    <section aria-label="Crews and rates" className="grid gap-2">
      {crews.length === 0 ? <p>No crew is set. A steward sets crews and rates.</p> : null}
      <ul>
        {crews.map((crew) => (
          <li key={crew.name} className="border-b border-rule py-1">
            <b>{crew.name}</b>, {crew.hours} h a week
          </li>
        ))}
      </ul>
      {settings.skills?.map((row) => (
        <p key={row.skill} className="text-sm">
          {row.skill.replaceAll("_", " ")}: {row.qualification}
        </p>
      ))}
    </section>
  );
}
