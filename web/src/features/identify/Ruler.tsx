import { useState } from "react";

const CARD_MM = 85.6; // width of a bank card, ISO/IEC 7810 ID-1
const KEPT = "jubark ruler px/mm";
const MARGIN = 8;
const NOMINAL = 96 / 25.4; // the CSS millimetre; seldom that of the screen

/** A ruler on the screen: hold the leaf, bud or fruit to it and put the mark at its end. Set once against a bank card. */
export function Ruler({ unit, onRead }: { unit: string; onRead: (value: string) => void }) {
  const [scale, setScale] = useState(() => Number(localStorage.getItem(KEPT)) || 0);
  const [setting, setSetting] = useState(false);
  const [at, setAt] = useState(20);
  const pxPerMm = scale || NOMINAL;
  const long = Math.floor(320 / pxPerMm); // as much as the narrowest screen holds
  const read = (mm: number) => {
    const kept = Math.max(0, Math.min(long, Math.round(mm * 2) / 2));
    setAt(kept);
    onRead(unit === "cm" ? (kept / 10).toFixed(2).replace(/0$/, "") : String(kept));
  };
  const keep = (value: number) => {
    localStorage.setItem(KEPT, String(value));
    setScale(value);
  };
  return (
    <details className="mt-3">
      <summary className="min-h-[53px] cursor-pointer content-center text-slate underline">
        Ruler on the screen
      </summary>
      <p className="text-sm text-soft">
        {scale
          ? "Hold it with its base at 0 and put the mark at its end."
          : "This screen's own size is not known yet. Set the ruler before you read it."}
      </p>
      <div
        role="slider"
        tabIndex={0}
        aria-label="Length on the ruler, mm"
        aria-valuemin={0}
        aria-valuemax={long}
        aria-valuenow={at}
        className="mt-1 inline-block touch-none border border-rule bg-sheet"
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          read((e.clientX - e.currentTarget.getBoundingClientRect().left - MARGIN) / pxPerMm);
        }}
        onPointerMove={(e) =>
          e.buttons && read((e.clientX - e.currentTarget.getBoundingClientRect().left - MARGIN) / pxPerMm)
        }
        onKeyDown={(e) => {
          const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1, PageUp: 10, PageDown: -10 }[
            e.key
          ];
          if (!by) return;
          e.preventDefault();
          read(at + by);
        }}
      >
        <svg className="block" width={long * pxPerMm + 2 * MARGIN} height={70} aria-hidden="true">
          {Array.from({ length: long + 1 }, (_, mm) => (
            <line
              key={mm}
              x1={MARGIN + mm * pxPerMm}
              x2={MARGIN + mm * pxPerMm}
              y2={mm % 10 === 0 ? 26 : mm % 5 === 0 ? 18 : 11}
              stroke="var(--color-ink)"
              strokeWidth={mm % 10 === 0 ? 1.4 : 0.7}
            />
          ))}
          {Array.from({ length: Math.floor(long / 10) + 1 }, (_, cm) => (
            <text
              key={cm}
              x={MARGIN + cm * 10 * pxPerMm}
              y={40}
              fontSize={12}
              textAnchor="middle"
              fill="var(--color-ink)"
            >
              {cm}
            </text>
          ))}
          <line
            x1={MARGIN + at * pxPerMm}
            x2={MARGIN + at * pxPerMm}
            y2={70}
            stroke="var(--color-rust)"
            strokeWidth={2}
          />
        </svg>
      </div>
      <button
        type="button"
        className="min-h-[53px] text-sm text-slate underline"
        onClick={() => setSetting(!setting)}
      >
        {scale ? "Set the ruler anew" : "Set the ruler"}
      </button>
      {setting && (
        <label className="block text-sm">
          Lay a bank card on the bar and draw the bar as long as the card ({CARD_MM} mm).
          <svg className="my-1 block" width={CARD_MM * pxPerMm} height={24} aria-hidden="true">
            <rect width="100%" height="24" fill="var(--color-bark)" />
          </svg>
          <input
            type="range"
            min={2.5}
            max={9}
            step={0.01}
            value={pxPerMm}
            className="h-11 w-full max-w-md"
            onChange={(e) => keep(Number(e.target.value))}
          />
        </label>
      )}
    </details>
  );
}
