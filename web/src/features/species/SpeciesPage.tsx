import { useQuery } from "@tanstack/react-query";
import { useCallback, useMemo } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { core } from "@/core";
import { HowFound, SharedName } from "@/shared/names/NameSearch";
import { useToday } from "@/shared/records/place";
import { useBlocks, useSites, useVocabulary } from "@/shared/records/reads";
import { Button, Check, Field, PageState, Select } from "@/shared/ui";
import { SpeciesSheet } from "./SpeciesSheet";
import { type Listed, narrowed, useListed } from "./useListed";

const MOST_BESIDE = 4;

/** The flora: a list to narrow, a tray to compare, and one taxon drawn and told. The address holds all of it. */
export function SpeciesPage() {
  const { taxon } = useParams();
  const [params, setParams] = useSearchParams();
  const blocks = useBlocks();
  const block = params.get("block") ?? blocks.data?.[0]?.id;
  const now = useToday(block);
  const on = params.get("on") || now;
  const listed = useListed(on, block);
  const change = useCallback(
    (key: string, value: string) =>
      setParams(
        (old) => {
          const next = new URLSearchParams(old);
          if (value) next.set(key, value);
          else next.delete(key);
          return next;
        },
        { replace: true },
      ),
    [setParams],
  );
  const onDate = useCallback((value: string) => change("on", value), [change]);
  const tray = (params.get("tray") ?? "").split(",").filter(Boolean);
  const beside = (id: string) =>
    change(
      "tray",
      (tray.includes(id) ? tray.filter((t) => t !== id) : [...tray, id].slice(-MOST_BESIDE)).join(","),
    );
  const search = params.toString();
  if (!listed.data) return <PageState error={listed.error} what="the flora" />;
  return (
    <div className="lg:grid lg:h-dvh lg:grid-cols-[20rem_1fr]">
      <section
        aria-label="List of the flora"
        className={`border-rule p-4 lg:grid lg:grid-rows-[auto_1fr_auto] lg:overflow-hidden lg:border-r lg:pb-0 ${taxon ? "hidden lg:block" : ""}`}
      >
        <TheList
          taxa={listed.data}
          params={params}
          change={change}
          current={taxon}
          tray={tray}
          beside={beside}
          search={search}
        />
        {tray.length > 0 && (
          <div className="sticky bottom-16 border-t-2 border-ink bg-paper py-3 lg:static">
            <p className="text-sm">
              To compare:{" "}
              <span className="latin text-base">
                {tray.map((id) => listed.data?.find((t) => t.taxon === id)?.name ?? id).join(", ")}
              </span>
            </p>
            <div className="mt-2 flex gap-2">
              {tray.length > 1 && (
                <Link
                  to={`/side-by-side?taxa=${tray.join(",")}&on=${on}${block ? `&block=${block}` : ""}`}
                  className="target inline-flex items-center rounded-tile border-2 border-moss bg-moss px-4 font-bold text-onmoss"
                >
                  Side by side
                </Link>
              )}
              <Button onClick={() => change("tray", "")}>Empty</Button>
            </div>
          </div>
        )}
      </section>
      <section className={`p-4 lg:overflow-y-auto ${taxon ? "" : "hidden lg:block"}`} aria-label="Species">
        {taxon ? (
          <SpeciesSheet
            key={taxon}
            taxon={taxon}
            on={on}
            stage={params.get("stage") ?? "mature"}
            block={block}
            onDate={onDate}
            onStage={(value) => change("stage", value)}
            search={search}
            compared={tray.includes(taxon)}
            onCompare={() => beside(taxon)}
          />
        ) : (
          <div className="max-w-prose">
            <p className="text-soft">
              Pick a taxon. Its plates are drawn from its own numbers, for the day you choose; nothing is a
              photograph.
            </p>
            <p className="mt-4">
              <Link to="/year" className="text-slate underline">
                What your sites show this month
              </Link>
              , to read here or to print for a walk.
            </p>
          </div>
        )}
      </section>
    </div>
  );
}

interface ListProps {
  taxa: Listed[];
  params: URLSearchParams;
  change: (key: string, value: string) => void;
  current: string | undefined;
  tray: string[];
  beside: (id: string) => void;
  search: string;
}

function TheList({ taxa, params, change, current, tray, beside, search }: ListProps) {
  const vocabulary = useVocabulary();
  const sites = useSites();
  const get = (key: string) => params.get(key) ?? "";
  const by = {
    words: get("words"),
    form: get("form"),
    shows: get("shows"),
    area: get("area"),
    status: get("status"),
    here: get("here") === "yes",
  };
  const words = by.words.trim();
  const named = useQuery({
    queryKey: ["names", words],
    enabled: words.length >= 2,
    queryFn: () => core.findNames({ words }),
  });
  const hits = words.length >= 2 ? (named.data ?? []) : [];
  const found = narrowed(taxa, by, new Set(hits.map((n) => n.taxon)));
  const areas = useMemo(
    () => [...new Set(taxa.flatMap((t) => [...t.native, ...t.introduced]))].sort(),
    [taxa],
  );
  const own = [...new Set(sites.data?.flatMap((g) => g.areas) ?? [])];
  const forms = vocabulary.data?.characters.find((c) => c.id === "habit.form")?.states ?? [];
  const set = (["form", "shows", "area", "status", "here"] as const).filter((key) => get(key)).length;
  return (
    <>
      <div>
        <div className="flex items-baseline justify-between">
          <h1 className="text-2xl">Species</h1>
          <Link to="/year" className="text-sm text-slate underline">
            The year here
          </Link>
        </div>
        <Field
          label="Name, Latin or common"
          value={by.words}
          onChange={(e) => change("words", e.target.value)}
          className="mt-2"
        />
        <SharedName words={words} found={hits} />
        <details open={set > 0}>
          <summary className="min-h-[44px] cursor-pointer content-center text-slate underline">
            Narrow the list{set > 0 ? ` (${set} set)` : ""}
          </summary>
          <div className="grid grid-cols-2 gap-2 pb-2">
            <Select label="Form" value={by.form} onChange={(e) => change("form", e.target.value)}>
              <option value="">any</option>
              {forms.map((f) => (
                <option key={f.id} value={f.id}>
                  {f.label}
                </option>
              ))}
            </Select>
            <Select
              label="Shows on the day"
              value={by.shows}
              onChange={(e) => change("shows", e.target.value)}
            >
              <option value="">any</option>
              <option value="leaf">leaf</option>
              <option value="flower">flower</option>
              <option value="fruit">fruit</option>
            </Select>
            <Select label="Area" value={by.area} onChange={(e) => change("area", e.target.value)}>
              <option value="">anywhere</option>
              {[...own, ...areas.filter((a) => !own.includes(a))].map((a) => (
                <option key={a} value={a}>
                  {a}
                  {own.includes(a) ? " (yours)" : ""}
                </option>
              ))}
            </Select>
            <Select label="There it is" value={by.status} onChange={(e) => change("status", e.target.value)}>
              <option value="">any</option>
              <option value="native">native</option>
              <option value="introduced">introduced</option>
              <option value="invasive">invasive</option>
            </Select>
            <div className="col-span-2">
              <Check
                label="on your sites"
                checked={by.here}
                onChange={(here) => change("here", here ? "yes" : "")}
              />
            </div>
          </div>
        </details>
        <p className="text-sm text-soft" role="status">
          {found.length === 0
            ? words
              ? "No such name in the flora."
              : "No taxon fits all of that."
            : `${found.length} ${found.length === 1 ? "taxon" : "taxa"}`}
        </p>
      </div>
      <ul className="lg:overflow-y-auto">
        {found.map((t) => {
          const hit = hits.find((n) => n.taxon === t.taxon);
          return (
            <li key={t.taxon} className="flex items-stretch border-b border-rule">
              <Link
                to={{ pathname: `/species/${t.taxon}`, search }}
                aria-current={t.taxon === current ? "page" : undefined}
                className="min-w-0 flex-1 px-2 py-2 aria-[current=page]:bg-lichen"
              >
                <span className="latin text-lg">{t.name}</span>
                <span className="block text-sm text-soft">
                  {t.common}
                  {t.plants > 0 && ` · ${t.plants} here`}
                </span>
                {hit && <HowFound found={hit} />}
              </Link>
              <button
                type="button"
                aria-pressed={tray.includes(t.taxon)}
                aria-label={`Compare ${t.name}`}
                onClick={() => beside(t.taxon)}
                className="min-w-[52px] px-1 text-sm text-slate underline aria-pressed:bg-lichen aria-pressed:font-bold"
              >
                {tray.includes(t.taxon) ? "in tray" : "compare"}
              </button>
            </li>
          );
        })}
      </ul>
    </>
  );
}
