import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { SpaceCheck } from "@/features/species";
import { inWords } from "@/shared/dates";
import { newId } from "@/shared/ids";
import { reaches, useMember } from "@/shared/member";
import { useItem, useSave } from "@/shared/outbox";
import {
  conditionNow,
  entryInWords,
  heightOnStem,
  inReadingOrder,
  nameShown,
  useWording,
} from "@/shared/records/labels";
import { type Entry, type Plant, useBlocks, usePlant, useSites, type Visit } from "@/shared/records/reads";
import { InSite } from "@/shared/site/InSite";
import { useUnits } from "@/shared/site/units";
import { Term } from "@/shared/terms/Term";
import { type TreeFile, useTreeFile } from "@/shared/tree-file";
import { Button, Notice, PageState } from "@/shared/ui";
import { CorrectEntry } from "./CorrectEntry";
import { FromSize } from "./FromSize";
import { JobsOfTree } from "./JobsOfTree";
import { Merge } from "./Merge";
import { StripDrawing } from "./StripDrawing";
import { ThroughTheYears } from "./ThroughTheYears";
import { VacantPlace } from "./VacantPlace";

const PLACE_DOUBTFUL_M = 100; // beyond it a neighbour stands nearer than the tree itself

/** A tree through its visits: what was recorded, when and by whom, and what is known of it now. */
export function HistoryPage() {
  const { plantId } = useParams();
  const member = useMember();
  const navigate = useNavigate();
  const plant = usePlant(plantId);
  const blocks = useBlocks();
  const sites = useSites();
  const [correcting, setCorrecting] = useState<Entry | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const item = useItem(said);
  const { file, unsent, unknown } = useTreeFile(plantId);
  if (!plant.data) return <PageState error={plant.error} what="this tree" />;
  const p = plant.data;
  const block = blocks.data?.find((b) => b.id === p.block_id);
  const site = sites.data?.find((g) => g.id === block?.site_id);
  if (p.form === "vacant") return <VacantPlace plant={p} block={block} />;
  return (
    <InSite site={site}>
      <div className="mx-auto max-w-6xl p-4 md:p-6">
        <header className="mb-4 flex flex-wrap items-end justify-between gap-4">
          <div>
            <p className="figure text-3xl font-semibold">
              {p.current.tag ? `Tag ${p.current.tag}` : "No tag"}
            </p>
            <h1 className="latin text-2xl font-normal">
              {nameShown(p.current.name, p.current.name_rank) || "not named"}
            </h1>
            <Now plant={p} file={file} unsent={unsent} />
          </div>
          <div className="flex gap-2">
            <Button onClick={() => navigate(`/map/${p.block_id}`)}>On the map</Button>
            {reaches(member, "surveyor") && (
              <Button weight="act" onClick={() => navigate(`/survey/${p.id}`)}>
                Add a visit
              </Button>
            )}
          </div>
        </header>
        {p.current.contested && (
          <Notice kind="caution">
            Two corrections name the same entry. The one received later counts; both are marked below.
          </Notice>
        )}
        {p.current.tag_clash && (
          <Notice kind="caution">Another standing tree of this site carries the same tag.</Notice>
        )}
        {unknown && unsent > 0 && (
          <Notice kind="caution">
            What this device recorded of it and has not sent yet is not counted here: that takes the core on
            this device, or a network.
          </Notice>
        )}
        {file?.wires && (
          <Notice kind="refused" title={`Held by wires since ${inWords(file.wires.since)}.`}>
            Keep people out, well away from tree and wire, and call the operator of the line. Nothing else is
            done on it until the operator says that the line is removed or repaired, clear of the tree
            {file.wires.permits > 0 &&
              "; under a permit of the operator, only by a crew qualified for line clearance"}
            .
          </Notice>
        )}
        {file?.apart && (file.risk?.sheets.length ?? 0) > 1 && (
          <Notice kind="caution">
            Two records of this tree were merged, each with its worksheet: {file.risk?.sheets.join("; ")}. The
            graver leads until somebody has seen base and crown whole.
          </Notice>
        )}
        <Merge plant={p} />
        {item && (
          <p role="status" className="my-2">
            Correction:{" "}
            {item.state === "sent"
              ? "sent"
              : item.state === "needs_attention"
                ? `needs attention: ${item.message}`
                : "saved on this device"}
          </p>
        )}
        <StripDrawing visits={p.visits} />
        <JobsOfTree jobs={file?.jobs ?? []} />
        <FromSize plantId={p.id} visits={p.visits.length} />
        {p.current.taxon.includes("-") && (
          <details className="mt-2">
            <summary className="min-h-[44px] cursor-pointer content-center text-slate underline">
              Has it room to grow?
            </summary>
            <SpaceCheck taxon={p.current.taxon} />
          </details>
        )}
        <ThroughTheYears points={file?.photo_points ?? []} />
        {p.visits.length === 0 && <p className="my-4">No visit yet.</p>}
        <ol className="mt-4 grid gap-4">
          {p.visits.map((v) => (
            <VisitCard key={v.id} visit={v} onCorrect={setCorrecting} />
          ))}
        </ol>
        {correcting && (
          <CorrectEntry
            entry={correcting}
            onClose={(id) => {
              setCorrecting(null);
              if (id) setSaid(id);
            }}
          />
        )}
      </div>
    </InSite>
  );
}

interface NowProps {
  plant: Plant;
  file: TreeFile | undefined;
  unsent: number;
}

/** What is known of it now; with what this device has not sent yet, as the core reads it. */
function Now({ plant, file, unsent }: NowProps) {
  const c = file && unsent ? { ...plant.current, ...knownBy(file) } : plant.current;
  const units = useUnits();
  const parts = [
    c.dbh_cm &&
      `${units.shown(c.dbh_cm, "cm")}${c.dbh_height_m ? ` at ${heightOnStem(c.dbh_height_m, units)}` : ""}`,
    c.height_m && `${units.shown(c.height_m, "m")} high`,
    conditionNow(c),
    c.risk_reads && `risk ${c.risk_reads.charAt(0).toLowerCase()}${c.risk_reads.slice(1)}`,
    c.life !== "alive" && c.life.replaceAll("_", " "),
    plant.row_name && `${plant.row_name}, ${plant.row_position}`,
    plant.accuracy_m &&
      `${plant.accuracy_m > PLACE_DOUBTFUL_M ? "place doubtful" : "placed"} to ± ${units.shown(plant.accuracy_m, "m")}`,
  ].filter(Boolean);
  return (
    <p className="text-soft">
      {parts.join(" · ")}
      {file && unsent > 0 && (
        <b className="block font-normal text-ink">
          With {unsent === 1 ? "a visit" : `${unsent} visits`} of this device that{" "}
          {unsent === 1 ? "is" : "are"} not sent yet.
        </b>
      )}
    </p>
  );
}

/** The figures of a tree's file by the names the inventory has for them. */
const knownBy = ({ figures, condition, risk, life }: TreeFile) => ({
  dbh_cm: figures["dbh_cm"]?.value ?? null,
  dbh_height_m: figures["dbh_cm"]?.at_height_m ?? null,
  height_m: figures["height_m"]?.value ?? null,
  condition: condition.word,
  condition_at_most: condition.at_most,
  condition_in_winter: condition.winter_view,
  risk_reads: risk?.reads ?? "",
  life,
});

/** The device's clock was seen to be wrong. Who was there, or a steward, can say that the date is right all the same. */
function DoubtedDate({ visit }: { visit: Visit }) {
  const member = useMember();
  const save = useSave();
  const [said, setSaid] = useState<string | null>(null);
  const item = useItem(said);
  const confirmed = visit.entries.some((e) => e.kind === "clock_confirmed");
  const may = reaches(member, visit.mine ? "surveyor" : "steward");
  const confirm = async () => {
    const id = newId();
    await save("clock", { id, visit: visit.id, recorded_at: new Date().toISOString() });
    setSaid(id);
  };
  if (confirmed)
    return <p className="text-sm text-soft">The device's clock was wrong; the date was confirmed.</p>;
  return (
    <Notice kind="caution" title="The device's clock was wrong.">
      This visit counts only once its date is confirmed. Is {inWords(visit.local_date)} right? If not, take
      its entries back and record them anew.
      {may && !item && (
        <Button className="mt-2 block" onClick={() => void confirm()}>
          Confirm {inWords(visit.local_date)}
        </Button>
      )}
      {item && (
        <p role="status">
          {item.state === "needs_attention"
            ? `Needs attention: ${item.message}`
            : "Confirmed; saved on this device until it is sent."}
        </p>
      )}
    </Notice>
  );
}

function VisitCard({ visit, onCorrect }: { visit: Visit; onCorrect: (entry: Entry) => void }) {
  const member = useMember();
  const wording = useWording();
  return (
    <li className="border-t-2 border-ink pt-2">
      <h2 className="text-lg">
        {inWords(visit.local_date)}{" "}
        <span className="font-sans text-base font-normal text-soft">
          {visit.observer}
          {visit.entered_by && ` (entered by ${visit.entered_by})`}, {visit.mode}, {visit.stage}
        </span>
      </h2>
      {visit.clock_doubtful && <DoubtedDate visit={visit} />}
      <ul className="divide-y divide-rule">
        {inReadingOrder(visit.entries, wording.vocabulary).map((entry) => {
          const { what, said } = entryInWords(entry, wording);
          const mayCorrect = entry.stands && reaches(member, entry.mine ? "surveyor" : "steward");
          return (
            <li
              key={entry.id}
              className={`grid grid-cols-[9rem_1fr_auto] items-center gap-3 py-1 ${entry.stands ? "" : "text-soft"}`}
            >
              <span className="text-sm">
                {entry.kind === "measurement" && entry.body ? (
                  <Term id={entry.body.quantity}>{what}</Term>
                ) : (
                  what
                )}
              </span>
              <span className={entry.stands ? "" : "line-through decoration-rust"}>
                {entry.retracts ? "withdrawn" : said}
                {entry.replaces && (
                  <span className="ml-2 text-sm text-soft">
                    corrects an earlier entry{entry.reason ? `: ${entry.reason}` : ""} ({entry.observer}
                    {entry.entered_by && `, entered by ${entry.entered_by}`})
                  </span>
                )}
                {entry.contested && <strong className="ml-2 text-rust">disputed</strong>}
              </span>
              {mayCorrect ? (
                <button
                  type="button"
                  className="min-h-[44px] px-2 text-sm text-slate underline"
                  onClick={() => onCorrect(entry)}
                  aria-label={`Correct ${what}: ${said}`}
                >
                  Correct
                </button>
              ) : (
                <span />
              )}
            </li>
          );
        })}
      </ul>
    </li>
  );
}
