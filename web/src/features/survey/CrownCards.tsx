import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { core } from "@/core";

interface Props {
  quantity: "transparency_pct" | "dieback_pct";
  label: string;
  value: number | null;
  onPick: (percent: number) => void;
}

/** Crowns drawn to their share, to hold the tree against; a tap takes the share. */
export function CrownCards({ quantity, label, value, onPick }: Props) {
  const cards = useQuery({
    queryKey: ["crown cards", quantity],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => core.crownCards({ quantity }),
  });
  const picked = value === null ? null : Math.ceil(value / 5) * 5;
  const at = useRef<HTMLButtonElement>(null);
  useEffect(() => at.current?.scrollIntoView?.({ block: "nearest", inline: "center" }), []);
  if (!cards.data) return null;
  return (
    <ul aria-label={`${label}: compare`} className="col-span-2 flex gap-1 overflow-x-auto pb-2">
      {cards.data.map((card) => (
        <li key={card.percent}>
          <button
            ref={card.percent === picked ? at : null}
            type="button"
            aria-pressed={card.percent === picked}
            aria-label={`${label} ${card.percent} %`}
            onClick={() => onPick(card.percent)}
            className={`w-20 rounded-tile border-2 bg-[#fdfaf2] text-sm text-[#211f18] ${card.percent === picked ? "border-ink font-bold" : "border-rule"}`}
          >
            <img alt="" className="w-full" src={`data:image/svg+xml,${encodeURIComponent(card.svg)}`} />
            {card.percent} %
          </button>
        </li>
      ))}
    </ul>
  );
}
