import type { Schemas } from "@/api/client";

interface Props {
  sample: Schemas["SampleRow"];
  values: number[];
  /** counts are told without decimals */
  whole: boolean;
  name: (taxon: string) => string;
}

/** The values of this plant against the range of each rival, and whether more would settle it. */
export function Tally({ sample, values, whole, name }: Props) {
  const marks = [...values, ...sample.rivals.flatMap((r) => [r.low, r.high])];
  const low = Math.min(...marks);
  const wide = Math.max(...marks) - low || 1;
  const x = (value: number) => 2 + (96 * (value - low)) / wide;
  return (
    <figure>
      <figcaption className="text-sm">
        {sample.settles ? (
          <strong>
            {sample.settles.more === 0 ? `Enough. ${sample.settles.says}` : sample.settles.says}
          </strong>
        ) : (
          <span className="text-soft">The leading names do not differ in this.</span>
        )}
      </figcaption>
      <ul className="mt-2 grid gap-1">
        {sample.rivals.map((r) => (
          <li key={r.taxon}>
            <p className="flex justify-between text-sm leading-tight">
              <span className="latin">{name(r.taxon)}</span>
              <span className="tabular-nums text-soft">
                {shown(r.low, whole)} to {shown(r.high, whole)}
              </span>
            </p>
            <Bar>
              <rect
                x={x(r.low)}
                width={Math.max(0.6, x(r.high) - x(r.low))}
                y="2"
                height="6"
                fill="var(--color-lichen)"
              />
              {values.map((v, i) => (
                <rect key={i} x={x(v) - 0.3} width="0.6" y="1" height="8" fill="var(--color-soft)" />
              ))}
              <rect x={x(sample.mean) - 0.5} width="1" y="0" height="10" fill="var(--color-ink)" />
            </Bar>
          </li>
        ))}
      </ul>
      <p className="mt-1 text-sm text-soft">
        Bars: where nine of ten single values of that kind lie. Dark line: the mean of this plant.
      </p>
    </figure>
  );
}

function Bar({ children }: { children: React.ReactNode }) {
  return (
    <svg className="block h-3 w-full" viewBox="0 0 100 10" preserveAspectRatio="none" aria-hidden="true">
      <rect y="4.6" width="100" height="0.8" fill="var(--color-rule)" />
      {children}
    </svg>
  );
}

const shown = (value: number, whole: boolean) => value.toFixed(whole || value >= 10 ? 0 : 1);
