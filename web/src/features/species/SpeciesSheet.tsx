import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "@/api/client";
import { core } from "@/core";
import { savedCopy } from "@/shared/outbox";
import { usePlaceOf, useSiteOf } from "@/shared/records/place";
import { DatesHere } from "@/shared/season-ring/DatesHere";
import { InSite } from "@/shared/site/InSite";
import { useUnits } from "@/shared/site/units";
import { Button, Choice, Notice, PageState } from "@/shared/ui";
import { Plate } from "./Plate";
import { SpaceCheck } from "./SpaceCheck";
import { YearSlider } from "./YearSlider";

interface Props {
  taxon: string;
  on: string;
  stage: string;
  block: string | undefined;
  onDate: (value: string) => void;
  onStage: (value: string) => void;
  search: string;
  compared: boolean;
  onCompare: () => void;
}

const PLATES = [
  { part: "leaf", label: "Leaf" },
  { part: "twig", label: "Twig" },
  { part: "flower", label: "Flower" },
  { part: "fruit", label: "Fruit or cone" },
  { part: "bark", stage: "young", label: "Bark, young" },
  { part: "bark", stage: "mature", label: "Bark, grown" },
  { part: "habit", label: "Habit" },
];

const MEMORY = "memory"; // the source of a value that was read against nothing yet

/** One taxon: plates for a day, cautions, season, what it is taken for, what it shows organ by organ. */
export function SpeciesSheet({
  taxon,
  on,
  stage,
  block,
  onDate,
  onStage,
  search,
  compared,
  onCompare,
}: Props) {
  const place = usePlaceOf(block);
  const site = useSiteOf(block);
  const ring = useQuery({
    queryKey: ["season of taxon", taxon, on, place],
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () =>
      savedCopy(`ring ${taxon} ${block ?? ""}`, () => core.season({ on, ...place, counts: { [taxon]: 1 } })),
  });
  const dates = useQuery({
    queryKey: ["calendar of taxon", taxon, place],
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => savedCopy(`calendar ${taxon} ${block ?? ""}`, () => core.calendar({ taxon, ...place })),
  });
  const { data: p, error } = useQuery({
    queryKey: ["species", taxon],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => savedCopy(`species ${taxon}`, () => core.species(taxon)),
  });
  const back = (
    <Link to={{ pathname: "/species", search }} className="text-slate underline lg:hidden">
      All taxa
    </Link>
  );
  if (!p)
    return (
      <>
        {back}
        <PageState error={error} what="the portrait" />
      </>
    );
  return (
    <article>
      {back}
      <header className="flex flex-wrap items-end justify-between gap-4">
        <div>
          <p className="text-sm text-soft">{p.line.join(" · ")}</p>
          <h2 className="latin text-4xl leading-tight">{p.name}</h2>
          <p>
            {p.common.join(", ") || p.rank}
            {p.synonyms.length > 0 && (
              <span className="text-soft"> · also written {p.synonyms.join(", ")}</span>
            )}
          </p>
        </div>
        <Button aria-pressed={compared} onClick={onCompare}>
          {compared ? "In the tray" : "Compare"}
        </Button>
      </header>
      <div className="mt-3 flex flex-wrap items-end justify-between gap-4 border-y border-rule py-3">
        <div className="min-w-72 flex-1">
          <YearSlider on={on} onDate={onDate} ring={ring.data} />
        </div>
        <Choice
          label="Stage"
          value={stage}
          onChange={onStage}
          options={[
            { id: "sapling", label: "sapling" },
            { id: "young", label: "young" },
            { id: "mature", label: "grown" },
            { id: "veteran", label: "veteran" },
          ]}
        />
      </div>
      {p.cautions.length + p.harm.length > 0 && (
        <div className="mt-3">
          <Notice kind="caution">{[...p.cautions, ...p.harm].join(" ")}</Notice>
        </div>
      )}
      {p.local_note && (
        <p className="mt-3">
          <span className="text-sm text-soft">Here: </span>
          {p.local_note}
        </p>
      )}
      {p.stop_at && (
        <p className="mt-3">
          Named no further than {p.stop_at.rank}: {p.stop_at.why}
        </p>
      )}
      <ul className="mt-4 grid grid-cols-2 gap-3 xl:grid-cols-3">
        {PLATES.map((plate) => (
          <li key={plate.label} className="border border-rule bg-sheet">
            <p className="px-3 pt-2 text-sm text-soft">{plate.label}</p>
            <Plate
              taxon={taxon}
              name={p.name}
              part={plate.part}
              on={on}
              stage={plate.stage ?? stage}
              block={block}
              className="h-56 p-2 md:h-64"
            />
          </li>
        ))}
      </ul>
      <LookAlikes portrait={p} search={search} on={on} block={block} />
      <div className="mt-6 grid gap-6 xl:grid-cols-2">
        <InSite site={site}>
          <Grown portrait={p} />
        </InSite>
        <section>
          <h3 className="border-b-2 border-ink text-xl">Through the year</h3>
          {dates.data ? (
            <DatesHere calendar={dates.data} />
          ) : (
            <PageState error={dates.error} what="the dates" />
          )}
          {p.winter_note && <p className="mt-2">{p.winter_note}</p>}
          {p.uses && <p className="mt-2">{p.uses}</p>}
          {p.pests.length > 0 && <p className="mt-2">Troubled by {p.pests.join(", ")}.</p>}
        </section>
        {p.organs.map((organ) => (
          <section key={organ.organ}>
            <h3 className="border-b-2 border-ink text-xl">{organ.label}</h3>
            <Rows
              rows={organ.rows.map((row) => [
                row.label,
                row.says,
                row.source === MEMORY,
                [row.said_of && `as all of ${row.said_of}`, row.source !== MEMORY && row.source]
                  .filter(Boolean)
                  .join("; "),
              ])}
            />
          </section>
        ))}
      </div>
      <p className="mt-6 text-sm text-soft">
        In this grey: general botanical knowledge, written from memory
        {p.read_by ? `, read by ${p.read_by}` : ", not read against a work yet"}. To read it against:{" "}
        {p.against.join("; ") || "no work is named"}.
      </p>
    </article>
  );
}

/** How big it grows, the room it needs, and where it grows wild, was brought, or spreads. */
function Grown({ portrait: p }: { portrait: Schemas["Species"] }) {
  const units = useUnits();
  const span = (range: number[] | null, si: string) =>
    range ? `${units.figure(range[0] ?? 0, si, 0)} to ${units.shown(range[1] ?? 0, si, 0)}` : "not known";
  const rows: [string, string][] = [
    ["Grown height", span(p.height_m, "m")],
    ["Grown spread", span(p.spread_m, "m")],
    [
      "Room it needs",
      p.spread_m
        ? `${units.shown((p.spread_m[1] ?? 0) / 2, "m")} clear on every side of the stem, for its full crown`
        : "not known",
    ],
    ["Lives", span(p.longevity_y, "years")],
    ["Hardiness zones", p.hardiness ? `${p.hardiness[0]} to ${p.hardiness[1]}` : "not known"],
    ["Native", p.native.join("; ") || "not in the areas this flora covers"],
  ];
  if (p.introduced.length) rows.push(["Introduced", p.introduced.join("; ")]);
  if (p.invasive.length) rows.push(["Invasive", p.invasive.join("; ")]);
  if (p.protected_note) rows.push(["Protected", p.protected_note]);
  return (
    <section>
      <h3 className="border-b-2 border-ink text-xl">Size and where it grows</h3>
      <Rows rows={rows} />
      {p.height_m && p.spread_m && <SpaceCheck taxon={p.taxon} />}
    </section>
  );
}

/** A line each: what, and what is said of it, in the soft colour where nobody has read it against a work yet. */
function Rows({ rows }: { rows: [label: string, says: string, unread?: boolean, note?: string][] }) {
  return (
    <dl>
      {rows.map(([label, says, unread, note]) => (
        <div key={label} className="grid grid-cols-[9rem_1fr] gap-3 border-b border-rule py-1">
          <dt className="text-sm text-soft">{label}</dt>
          <dd className={unread ? "text-soft" : ""}>
            {says}
            {note && <span className="text-sm italic text-soft"> {note}</span>}
          </dd>
        </div>
      ))}
    </dl>
  );
}

/** What it is taken for, with what parts the two: this one's words beside the other's. */
function LookAlikes({
  portrait: p,
  search,
  on,
  block,
}: {
  portrait: Schemas["Species"];
  search: string;
  on: string;
  block: string | undefined;
}) {
  if (p.look_alikes.length === 0) return null;
  return (
    <section className="mt-6">
      <h3 className="border-b-2 border-ink text-xl">Taken for</h3>
      {p.look_alikes.map((pair) => (
        <table key={pair.taxon} className="mt-3 w-full table-fixed text-left">
          <thead>
            <tr className="border-b border-rule align-bottom">
              <th className="w-1/4 py-1 text-sm font-normal text-soft">separated by</th>
              <th className="latin py-1 font-normal">{p.name}</th>
              <th className="py-1 font-normal">
                <Link
                  to={{ pathname: `/species/${pair.taxon}`, search }}
                  className="latin text-slate underline"
                >
                  {pair.name}
                </Link>{" "}
                <span className="text-sm text-soft">{pair.common}</span>{" "}
                <Link
                  to={`/side-by-side?taxa=${p.taxon},${pair.taxon}&on=${on}${block ? `&block=${block}` : ""}`}
                  className="whitespace-nowrap text-sm text-slate underline"
                >
                  side by side
                </Link>
              </th>
            </tr>
          </thead>
          <tbody>
            {pair.rows.map((row) => (
              <tr key={row.character} className="border-b border-rule align-top">
                <th className="py-1 pr-2 text-sm font-normal text-soft">{row.label}</th>
                <td className="py-1 pr-2">{row.this}</td>
                <td className="py-1">{row.other}</td>
              </tr>
            ))}
          </tbody>
        </table>
      ))}
    </section>
  );
}
