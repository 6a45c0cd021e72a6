import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, unwrap } from "@/api/client";
import { inWords as day } from "@/shared/dates";
import { useToday } from "@/shared/records/place";
import { type Body, RecordForm } from "@/shared/records/RecordForm";
import type { Vocabulary } from "@/shared/records/reads";
import { Term } from "@/shared/terms/Term";
import { Button, Dialog, Notice } from "@/shared/ui";
import type { SiteHealth } from "./useSiteHealth";

type BlockHealth = SiteHealth["blocks"][number];

interface Props {
  health: SiteHealth;
  vocabulary: Vocabulary;
  maySet: boolean;
}

/** The biosecurity status of every block: why, since when, what lifts it, who set it. */
export function BlocksHealth({ health, vocabulary, maySet }: Props) {
  const [setting, setSetting] = useState<BlockHealth | null>(null);
  const cause = (id: string) => vocabulary.causes.find((c) => c.id === id)?.label ?? id;
  return (
    <section aria-label="Biosecurity status">
      <h2 className="text-xl">
        <Term id="biosecurity_status">Biosecurity status</Term>
      </h2>
      <ul className="border-t border-rule">
        {health.blocks.map((b) => (
          <li key={b.block} className="flex items-start justify-between gap-3 border-b border-rule py-1">
            <div>
              <p>
                <b>{b.name}</b>{" "}
                <span className={b.status === "clean" ? "text-moss" : "font-bold text-rust"}>{b.status}</span>
              </p>
              {b.cause && (
                <p className="text-sm text-soft">
                  {cause(b.cause)}
                  {b.since && ` since ${day(b.since)}`}
                  {b.set_by && `, set by ${b.set_by}`}. {b.lifted_by && `Lifted by: ${b.lifted_by}.`}
                </p>
              )}
            </div>
            {maySet && (
              <Button weight="quiet" aria-label={`Set the status of ${b.name}`} onClick={() => setSetting(b)}>
                Set
              </Button>
            )}
          </li>
        ))}
      </ul>
      <Dialog open={setting !== null} onOpenChange={() => setSetting(null)} title={setting?.name ?? ""}>
        {setting && <StatusForm block={setting} vocabulary={vocabulary} onDone={() => setSetting(null)} />}
      </Dialog>
    </section>
  );
}

function StatusForm({
  block,
  vocabulary,
  onDone,
}: {
  block: BlockHealth;
  vocabulary: Vocabulary;
  onDone: () => void;
}) {
  const client = useQueryClient();
  const now = useToday(block.block);
  const [draft, setDraft] = useState<Body>({
    status: block.status,
    cause: block.cause,
    since: now,
  });
  const [wrong, setWrong] = useState("");
  const save = async () => {
    try {
      unwrap(
        await api.POST("/api/blocks/{block_id}/biosecurity/", {
          params: { path: { block_id: block.block } },
          body: draft as Schemas["BiosecurityIn"],
        }),
      );
      for (const key of ["site health", "blocks"]) await client.invalidateQueries({ queryKey: [key] });
      onDone();
    } catch (error) {
      setWrong(error instanceof Error ? error.message : String(error));
    }
  };
  return (
    <div className="grid gap-3">
      <RecordForm
        fields={vocabulary.records.office["biosecurity"] ?? []}
        value={draft}
        onChange={setDraft}
        vocabulary={vocabulary}
      />
      {wrong && <Notice kind="refused">{wrong}</Notice>}
      <Button weight="act" onClick={() => void save()}>
        Save status
      </Button>
    </div>
  );
}
