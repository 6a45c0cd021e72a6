import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, type Schemas, unwrap } from "@/api/client";
import { today } from "@/shared/dates";
import { reaches, useMember } from "@/shared/member";
import { savedCopy } from "@/shared/outbox";
import type { Block, Site } from "@/shared/records/reads";
import { startRound } from "@/shared/round/round";
import { Button, Choice, Notice, Select } from "@/shared/ui";

type Day = Schemas["Day"];
type Stop = Schemas["Stop"];

const HOURS = [
  { id: "120", label: "2 h" },
  { id: "240", label: "4 h" },
  { id: "420", label: "7 h" },
];
const USUAL = "420";
const HOURS_KEY = "jubark day";
const FIRST_SHOWN = 5;
const MOST_AT_ONCE = 20_000; // trees that are looked through for one plan
const WORDS: Record<string, string> = {
  danger: "extreme or high risk",
  risk: "risk sheets that are not whole",
  overdue: "inspections overdue",
  due: "inspections due within 30 days",
  dated: "promised or dated for now",
  doubtful: "doubtful figures",
  name: "provisional names that show something now",
  measure: "diameters to take again",
};

/** What there is to do on a site today: what fits into the day in walking order, and what stays. */
export function DayPlan({ site, blocks, titled }: { site: Site; blocks: Block[]; titled: boolean }) {
  const member = useMember();
  const on = today(member, site);
  const [minutes, setMinutes] = useState(localStorage.getItem(HOURS_KEY) ?? USUAL);
  const plants = blocks.reduce((sum, b) => sum + b.plant_count, 0);
  const [only, setOnly] = useState(plants > MOST_AT_ONCE ? (blocks[0]?.id ?? "") : "");
  const day = useQuery({
    queryKey: ["day", site.id, on, minutes, only],
    enabled: blocks.length > 0,
    queryFn: () =>
      savedCopy(`day ${site.id} ${minutes} ${only}`, async () =>
        unwrap(
          await api.GET("/api/sites/{site_id}/day/", {
            params: {
              path: { site_id: site.id },
              query: { on, minutes: Number(minutes), ...(only ? { block: [only] } : {}) },
            },
          }),
        ),
      ),
  });
  if (blocks.length === 0) return null;
  const title = titled ? `To do on ${site.name}` : "To do";
  return (
    <section aria-label={title} className="mb-8">
      <h2 className="text-xl">{title}</h2>
      {blocks.length > 1 && (
        <Select
          label="Where"
          className="mb-3 max-w-xs"
          value={only}
          onChange={(e) => setOnly(e.target.value)}
        >
          {plants <= MOST_AT_ONCE && <option value="">all blocks</option>}
          {blocks.map((b) => (
            <option key={b.id} value={b.id}>
              {b.name}
            </option>
          ))}
        </Select>
      )}
      {day.data ? (
        <Plan
          day={day.data}
          blocks={blocks}
          minutes={minutes}
          onMinutes={(next) => {
            localStorage.setItem(HOURS_KEY, next);
            setMinutes(next);
          }}
        />
      ) : day.error ? (
        <Notice kind="caution">The plan of the day: {day.error.message}</Notice>
      ) : (
        <p role="status" className="min-h-48 border-t border-rule py-3 text-soft">
          What there is to do is being put together …
        </p>
      )}
    </section>
  );
}

interface PlanProps {
  day: Day;
  blocks: Block[];
  minutes: string;
  onMinutes: (minutes: string) => void;
}

/** How much there is of everything, how long the day is, what fits into it and what stays. */
function Plan({ day, blocks, minutes, onMinutes }: PlanProps) {
  const member = useMember();
  const { plan, there_is } = day;
  const todo = Object.entries(WORDS).filter(([task]) => (there_is[task] ?? 0) > 0);
  return (
    <>
      {todo.length === 0 ? (
        <p className="border-t border-rule py-3">
          Nothing falls due: no inspection, no date, no doubtful figure, no name that shows something now.
        </p>
      ) : (
        <>
          <ul className="mb-3 grid gap-x-8 border-t border-rule sm:grid-cols-2">
            {todo.map(([task, label]) => (
              <li key={task} className="grid grid-cols-[3.5rem_1fr] gap-3 border-b border-rule py-1">
                <span
                  className={`figure text-right text-lg ${PRESSING.has(task) ? "font-bold text-rust" : ""}`}
                >
                  {there_is[task]?.toLocaleString()}
                </span>
                <span>{label}</span>
              </li>
            ))}
          </ul>
          <Choice label="The day has" tight value={minutes} onChange={onMinutes} options={HOURS} />
          <Fits day={day} blocks={blocks} mayWalk={reaches(member, "surveyor")} />
          <Stays stays={plan.stays} byTask={plan.stays_by_task} day={day} />
          <details className="mt-2">
            <summary className="min-h-[44px] cursor-pointer content-center text-sm text-slate underline">
              How the day is reckoned
            </summary>
            <p className="text-sm text-soft">
              Assumed: {plan.assumes} Most pressing first; clean blocks before suspect and infested ones.
            </p>
          </details>
        </>
      )}
    </>
  );
}

const PRESSING = new Set(["danger", "risk", "overdue"]);

/** The blocks of the day in the order that carries no disease; one tap starts the round through each. */
function Fits({ day, blocks, mayWalk }: { day: Day; blocks: Block[]; mayWalk: boolean }) {
  const navigate = useNavigate();
  const { plan, trees } = day;
  const stops = plan.blocks.reduce((sum, b) => sum + b.stops.length, 0);
  if (stops === 0) return <p className="mt-3">Nothing of it fits into so short a day.</p>;
  return (
    <>
      <p className="mt-3" role="status">
        <strong>
          {stops} {stops === 1 ? "tree" : "trees"}
        </strong>{" "}
        in {inHours(plan.minutes)}, {inHours(plan.walking_min)} of it on foot
      </p>
      <ol className="border-t border-rule">
        {plan.blocks.map((part, i) => {
          const block = blocks.find((b) => b.id === part.block);
          const first = part.stops[0];
          return (
            <li
              key={`${part.block} ${first?.tree ?? ""}`}
              className="grid items-start gap-2 border-b border-rule py-2 sm:grid-cols-[1fr_auto]"
            >
              <div className="min-w-0">
                <p>
                  <span className="figure text-lg text-soft">{i + 1}</span> <strong>{block?.name}</strong>{" "}
                  <span className={block?.biosecurity === "clean" ? "text-moss" : "font-bold text-rust"}>
                    {block?.biosecurity}
                  </span>
                  , {part.stops.length} {part.stops.length === 1 ? "tree" : "trees"}
                </p>
                <Stops stops={part.stops} trees={trees} />
              </div>
              {mayWalk && first && (
                <Button
                  weight={i === 0 ? "act" : "plain"}
                  aria-label={`Start the round through ${block?.name}`}
                  onClick={() => {
                    startRound(
                      part.block,
                      "whole",
                      part.stops.map((s) => s.tree),
                    );
                    void navigate(`/survey/${first.tree}?block=${part.block}`);
                  }}
                >
                  Start the round
                </Button>
              )}
            </li>
          );
        })}
      </ol>
    </>
  );
}

function Stays({ stays, byTask, day }: { stays: Stop[]; byTask: Record<string, number>; day: Day }) {
  if (stays.length === 0) return <p className="mt-2 text-moss">All of it fits into the day.</p>;
  const what = Object.entries(byTask).map(([task, n]) => `${n} ${WORDS[task] ?? task}`);
  return (
    <div className="mt-2 border-l-4 border-ochre pl-3">
      <p>
        <strong>
          {stays.length} {stays.length === 1 ? "tree stays" : "trees stay"}
        </strong>{" "}
        for another day: {what.join(", ")}.
      </p>
      <Stops stops={stays} trees={day.trees} />
    </div>
  );
}

/** The first stops, the others on demand: what is to do at each. */
function Stops({ stops, trees }: { stops: Stop[]; trees: Day["trees"] }) {
  const [all, setAll] = useState(false);
  const shown = all ? stops.slice(0, 200) : stops.slice(0, FIRST_SHOWN);
  return (
    <>
      <ul className="text-sm">
        {shown.map((stop) => (
          <li key={stop.tree} className="break-words">
            <span className="figure font-semibold">{trees[stop.tree]?.tag || "no tag"}</span>{" "}
            <span className="text-soft">{stop.says.join("; ")}</span>
          </li>
        ))}
      </ul>
      {stops.length > FIRST_SHOWN && (
        <button
          type="button"
          className="min-h-[44px] text-sm text-slate underline"
          aria-expanded={all}
          onClick={() => setAll(!all)}
        >
          {all ? "fewer" : `${stops.length - FIRST_SHOWN} more`}
        </button>
      )}
    </>
  );
}

const inHours = (minutes: number) => {
  const [hours, rest] = [Math.floor(minutes / 60), Math.round(minutes % 60)];
  return hours ? `${hours} h ${rest} min` : `${rest} min`;
};
