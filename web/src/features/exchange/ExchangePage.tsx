import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, call, refusal, type Schemas, unwrap } from "@/api/client";
import { reaches, useMember } from "@/shared/member";
import { useBlocks } from "@/shared/records/reads";
import { Button, Field, Notice, PageState, Select } from "@/shared/ui";

type Batch = Schemas["Batch"];

/** Files out and in. A file read in is shown first, good rows apart from bad; nothing is stored until a steward says so. */
export function ExchangePage() {
  const member = useMember();
  const blocks = useBlocks();
  const [chosen, setChosen] = useState("");
  if (!blocks.data) return <PageState error={blocks.error} what="the blocks" />;
  const block = chosen || (blocks.data[0]?.id ?? "");
  if (!block)
    return (
      <div className="p-4 md:p-8">
        <h1 className="mb-4 text-2xl">Import &amp; export</h1>
        <p>
          No block yet.{" "}
          {reaches(member, "steward") ? (
            <Link to="/map?new=block" className="target inline-flex items-center text-slate underline">
              Make one on the map
            </Link>
          ) : (
            "A steward makes one."
          )}
        </p>
      </div>
    );
  return (
    <div className="mx-auto max-w-5xl p-4 md:p-8">
      <h1 className="mb-4 text-2xl">Import &amp; export</h1>
      <Select
        label="Block"
        value={block}
        onChange={(e) => setChosen(e.target.value)}
        className="mb-6 max-w-md"
      >
        {blocks.data.map((b) => (
          <option key={b.id} value={b.id}>
            {b.name} ({b.plant_count})
          </option>
        ))}
      </Select>
      <div className="grid gap-8 md:grid-cols-2">
        <section>
          <h2 className="mb-2 text-xl">Out</h2>
          <p className="mb-3 text-soft">
            Every plant, visit and entry of the block, corrections included. Reading the file back gives the
            same records.
          </p>
          <div className="flex flex-wrap gap-2">
            <a
              className="target inline-flex items-center rounded-tile border-2 border-moss bg-moss px-4 font-bold text-onmoss"
              href={`/api/blocks/${block}/export.csv`}
              download
            >
              CSV table
            </a>
            <a
              className="target inline-flex items-center rounded-tile border-2 border-moss bg-moss px-4 font-bold text-onmoss"
              href={`/api/blocks/${block}/export.geojson`}
              download
            >
              GeoJSON map
            </a>
          </div>
          <p className="mt-4 text-soft">
            For the public: places and finds of notifiable pests and diseases stay out. Names of people and
            notes on other plants are in it; look it through before it goes out.
          </p>
          <p className="flex flex-wrap gap-x-6">
            {(["csv", "geojson"] as const).map((ending) => (
              <a
                key={ending}
                className="target inline-flex items-center text-slate underline"
                href={`/api/blocks/${block}/export.${ending}?audience=public`}
                download
              >
                For the public, {ending === "csv" ? "CSV" : "GeoJSON"}
              </a>
            ))}
          </p>
        </section>
        <section>
          <h2 className="mb-2 text-xl">In</h2>
          {reaches(member, "steward") ? (
            <ReadIn block={block} />
          ) : (
            <p>Reading files in needs the role steward; yours is {member.role}.</p>
          )}
        </section>
      </div>
      {reaches(member, "steward") && (
        <p className="mt-10">
          <Link to="/map?new=block" className="target inline-flex items-center text-slate underline">
            Make an empty block for a file
          </Link>
        </p>
      )}
    </div>
  );
}

function ReadIn({ block }: { block: string }) {
  const queryClient = useQueryClient();
  const [batch, setBatch] = useState<Batch | null>(null);
  const stage = useMutation({
    mutationFn: async (file: File) => {
      const form = new FormData();
      form.set("block", block);
      form.set("file", file);
      const response = await call("/api/imports/", { method: "POST", body: form });
      const answer = await response.json();
      if (!response.ok) throw refusal(response.status, answer);
      return answer as Batch;
    },
    onSuccess: setBatch,
  });
  const decide = useMutation({
    mutationFn: async (decision: "take" | "drop") =>
      unwrap(
        await api.POST("/api/imports/{batch_id}/", {
          params: { path: { batch_id: batch?.id ?? "" } },
          body: { decision },
        }),
      ),
    onSuccess: async (decided) => {
      setBatch(decided);
      await queryClient.invalidateQueries();
    },
  });
  return (
    <div className="grid gap-3">
      <Field
        label="File (.csv or .geojson, as written by Out)"
        type="file"
        accept=".csv,.geojson,.json"
        onChange={(e) => {
          const file = e.target.files?.[0];
          setBatch(null);
          if (file) stage.mutate(file);
          e.target.value = "";
        }}
      />
      {stage.isPending && <p role="status">Reading the file …</p>}
      {stage.error && (
        <Notice kind="refused" title="Not read.">
          {stage.error.message} Nothing was stored.
        </Notice>
      )}
      {batch && <Staged batch={batch} busy={decide.isPending} onDecide={(d) => decide.mutate(d)} />}
      {decide.error && <Notice kind="refused">{decide.error.message} Nothing was stored.</Notice>}
    </div>
  );
}

function Staged({
  batch,
  busy,
  onDecide,
}: {
  batch: Batch;
  busy: boolean;
  onDecide: (decision: "take" | "drop") => void;
}) {
  const { counts } = batch;
  return (
    <div className="border-2 border-rule bg-sheet p-3" aria-live="polite">
      <p>
        <strong>{batch.file_name}</strong>: {counts.plants} plants, {counts.visits} visits, {counts.entries}{" "}
        entries can be read; {counts.bad} rows cannot.
      </p>
      {batch.bad.length > 0 && (
        <div className="my-2 max-h-72 overflow-auto">
          <table className="w-full text-left text-sm">
            <thead>
              <tr>
                <th scope="col">Row</th>
                <th scope="col">Field</th>
                <th scope="col">Value</th>
                <th scope="col">Allowed</th>
              </tr>
            </thead>
            <tbody>
              {batch.bad.map((b, i) => (
                <tr key={i} className="border-t border-rule align-top">
                  <td className="pr-2">{b.row ?? ""}</td>
                  <td className="pr-2 break-all">{b.field}</td>
                  <td className="pr-2 break-all text-rust">{b.value}</td>
                  <td>{b.allowed}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {batch.state === "staged" ? (
        <div className="mt-3 flex gap-2">
          <Button
            weight="act"
            disabled={busy || counts.plants + counts.visits === 0}
            onClick={() => onDecide("take")}
          >
            Take {counts.bad ? "the good rows" : "them all"}
          </Button>
          <Button disabled={busy} onClick={() => onDecide("drop")}>
            Drop the file
          </Button>
        </div>
      ) : (
        <p role="status" className="mt-2 font-bold">
          {batch.state === "taken" ? "Taken over, in one go." : "Dropped. Nothing was stored."}
        </p>
      )}
    </div>
  );
}
