import type { Schemas } from "@/api/client";
import { inWords } from "@/shared/dates";
import { ROUGH_DATES } from "@/shared/season-ring/DatesHere";
import { arc, Hand, Months, turnOf } from "@/shared/season-ring/dial";

type Season = Schemas["SeasonOfWork"];
type Kind = Season["spans"][number]["kind"];

const RINGS: { kinds: Kind[]; width: number }[] = [
  { kinds: ["done", "caution", "never"], width: 13 },
  { kinds: ["nesting"], width: 5 },
];
const COLOUR: Record<Kind, string> = {
  done: "var(--color-moss)",
  caution: "var(--color-ochre)",
  never: "var(--color-rust)",
  nesting: "var(--color-slate)",
};
const SAYS: Record<Kind, string> = {
  done: "the time for it",
  caution: "with caution",
  never: "never",
  nesting: "most birds nest; nests are looked for at every date",
};
const SIZE = 132;

/** When work is done in the year at this place, as a ring; the hand stands at the day. The words stand beside it. */
export function WorkRing({ season, on }: { season: Season; on: string }) {
  const centre = SIZE / 2;
  let radius = centre - 22;
  const rings = RINGS.flatMap(({ kinds, width }) => {
    const spans = season.spans.filter((s) => kinds.includes(s.kind));
    if (spans.length === 0) return [];
    const at = radius;
    radius -= width + 2;
    return [
      <circle
        key={kinds[0]}
        cx={centre}
        cy={centre}
        r={at}
        fill="none"
        stroke="var(--color-rule)"
        strokeWidth={1}
      />,
      ...spans.map((s) => (
        <path
          key={`${s.kind} ${s.begins}`}
          d={arc(centre, at, turnOf(s.begins), end(turnOf(s.begins), turnOf(s.ends)))}
          fill="none"
          stroke={COLOUR[s.kind]}
          strokeWidth={width}
          strokeDasharray={s.kind === "never" ? "3 2" : undefined}
        />
      )),
    ];
  });
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
      <svg width={SIZE} height={SIZE} viewBox={`0 0 ${SIZE} ${SIZE}`} aria-hidden="true">
        {rings}
        <Hand centre={centre} date={on} />
        <Months centre={centre} />
      </svg>
      <ul className="text-sm">
        {season.spans.map((s) => (
          <li key={`${s.kind} ${s.begins}`} className="flex items-center gap-2">
            <svg width={14} height={14} className="shrink-0" aria-hidden="true">
              <line
                x1={0}
                x2={14}
                y1={7}
                y2={7}
                stroke={COLOUR[s.kind]}
                strokeWidth={s.kind === "nesting" ? 5 : 13}
                strokeDasharray={s.kind === "never" ? "3 2" : undefined}
              />
            </svg>
            <span>
              {inWords(s.begins)} to {inWords(s.ends)}: {SAYS[s.kind]}
            </span>
          </li>
        ))}
        <li className="text-soft">
          {season.rough
            ? ROUGH_DATES
            : `The time for it: ${season.carried ? "about, carried here, " : ""}± ${season.plus_minus_days} days.`}
        </li>
      </ul>
    </div>
  );
}

/** The end of a span as a turn after its beginning. */
const end = (from: number, to: number) => (to > from ? to : to + 1);
