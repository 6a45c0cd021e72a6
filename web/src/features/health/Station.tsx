import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, unwrap } from "@/api/client";
import { inWords as day } from "@/shared/dates";
import { Button, Dialog, Field, Notice } from "@/shared/ui";
import type { SiteHealth } from "./useSiteHealth";

interface Props {
  site: string;
  health: SiteHealth;
  mayRead: boolean;
}

/** The weather station: both clocks, and where its days come from. */
export function Station({ site, health, mayRead }: Props) {
  const [open, setOpen] = useState(false);
  const { station, clock } = health;
  return (
    <section aria-label="Warmth so far">
      <h2 className="text-xl">Warmth so far</h2>
      {station ? (
        <>
          <dl className="border-t border-rule">
            {clock.phenology && <Sum label="Buds and leaves, base 5 °C" of={clock.phenology} />}
            {clock.pests && <Sum label="Pests, base 10 °C (50 °F)" of={clock.pests} />}
          </dl>
          <p className="text-sm text-soft">
            {station.name}
            {station.simulated && ", no real station"}: {day(station.first_day)} to {day(station.last_day)},{" "}
            {station.missing} days missing. Single sine; a threshold counts only with its own method.
          </p>
        </>
      ) : (
        <p>No station: dates come from the table, moved to this place, ± 10 days at best.</p>
      )}
      {mayRead && (
        <Button weight="quiet" className="-ml-4" onClick={() => setOpen(true)}>
          {station ? "Read in newer days" : "Read in a station"}
        </Button>
      )}
      <Dialog open={open} onOpenChange={setOpen} title="Weather station">
        {open && <StationForm site={site} name={station?.name ?? ""} onDone={() => setOpen(false)} />}
      </Dialog>
    </section>
  );
}

function Sum({ label, of }: { label: string; of: NonNullable<SiteHealth["clock"]["pests"]> }) {
  const wide = of.high - of.low >= 1;
  return (
    <div className="flex justify-between gap-3 border-b border-rule py-1">
      <dt>{label}</dt>
      <dd className="tabular-nums">
        {wide ? `${Math.round(of.low)} to ${Math.round(of.high)}` : Math.round(of.value)} °{of.unit} days
      </dd>
    </div>
  );
}

function StationForm({ site, name, onDone }: { site: string; name: string; onDone: () => void }) {
  const client = useQueryClient();
  const [called, setCalled] = useState(name);
  const [text, setText] = useState("");
  const [wrong, setWrong] = useState("");
  const save = async () => {
    try {
      unwrap(
        await api.POST("/api/sites/{site_id}/station/", {
          params: { path: { site_id: site } },
          body: { name: called, csv: text },
        }),
      );
      await client.invalidateQueries({ queryKey: ["site health"] });
      onDone();
    } catch (error) {
      setWrong(error instanceof Error ? error.message : String(error));
    }
  };
  return (
    <div className="grid gap-3">
      <Field label="Name of the station" value={called} onChange={(e) => setCalled(e.target.value)} />
      <Field
        label="Its days as CSV"
        hint="Heads date, min_c, max_c, or min_f, max_f; one row a day, a missing reading left empty."
        type="file"
        accept=".csv,text/csv"
        onChange={(e) => void e.target.files?.[0]?.text().then(setText)}
      />
      {wrong && <Notice kind="refused">{wrong}</Notice>}
      <Button weight="act" disabled={!text || !called.trim()} onClick={() => void save()}>
        Read in
      </Button>
    </div>
  );
}
