/** The face of a year: where a day of it lies on a circle, arcs, the hand at a day, and the months round it. */

export function point(centre: number, radius: number, turn: number): [number, number] {
  const angle = turn * 2 * Math.PI - Math.PI / 2;
  return [centre + radius * Math.cos(angle), centre + radius * Math.sin(angle)];
}

/** An arc from one turn to a later one, less than a whole turn on. */
export function arc(centre: number, radius: number, from: number, to: number): string {
  const [x1, y1] = point(centre, radius, from);
  const [x2, y2] = point(centre, radius, to);
  const large = to - from > 0.5 ? 1 : 0;
  return `M${x1.toFixed(2)} ${y1.toFixed(2)} A${radius.toFixed(2)} ${radius.toFixed(2)} 0 ${large} 1 ${x2.toFixed(2)} ${y2.toFixed(2)}`;
}

/** The part of its year that has gone by on a day, 0 to 1. */
export function turnOf(date: string): number {
  const year = Number(date.slice(0, 4));
  const at = (text: string) => new Date(`${text}T00:00:00Z`).getTime();
  const start = at(`${year}-01-01`);
  return (at(date) - start) / (at(`${year + 1}-01-01`) - start);
}

export function Hand({ centre, date }: { centre: number; date: string }) {
  const [x, y] = point(centre, centre - 8, turnOf(date));
  return (
    <>
      <line x1={centre} y1={centre} x2={x} y2={y} stroke="var(--color-ink)" strokeWidth={2.5} />
      <circle cx={centre} cy={centre} r={4} fill="var(--color-ink)" />
    </>
  );
}

export function Months({ centre }: { centre: number }) {
  return ["J", "F", "M", "A", "M", "J", "J", "A", "S", "O", "N", "D"].map((m, i) => {
    const [x, y] = point(centre, centre - 5, (i + 0.5) / 12);
    return (
      <text
        key={i}
        x={x}
        y={y}
        fontSize={10}
        textAnchor="middle"
        dominantBaseline="middle"
        fill="var(--color-soft)"
      >
        {m}
      </text>
    );
  });
}
