import { useId, useState } from "react";
import { Button } from "@/shared/ui";
import { asLines, type Corner, readLines } from "./corners";

interface Props {
  /** so many make a shape */
  least: 1 | 3;
  /** without corners there is no shape yet */
  needed: boolean;
  corners: Corner[];
  onCorners: (corners: Corner[]) => void;
}

/** Corners in order: taps on the map add to them, the text is the same for who types. */
export function Corners({ least, needed, corners, onCorners }: Props) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null); // what is being typed; else the corners as they are
  const read = typed === null ? corners : readLines(typed);
  const count = corners.length === 1 ? "1 corner" : `${corners.length} corners`;
  return (
    <div>
      <label htmlFor={id} className="mb-1 block text-sm text-soft">
        Corners: tap them on the map in order, or type them, one on a line: latitude, longitude
      </label>
      <textarea
        id={id}
        rows={5}
        className="w-full rounded-tile border-2 border-rule bg-sheet px-3 py-2 tabular-nums text-ink aria-invalid:border-rust"
        aria-invalid={typeof read === "number" ? true : undefined}
        aria-describedby={`${id}-said`}
        value={typed ?? asLines(corners)}
        onChange={(e) => {
          setTyped(e.target.value);
          const next = readLines(e.target.value);
          if (typeof next !== "number") onCorners(next);
        }}
        onBlur={() => typeof read !== "number" && setTyped(null)}
      />
      <div className="flex items-center justify-between gap-2">
        <p
          id={`${id}-said`}
          role="status"
          className={`text-sm ${typeof read === "number" ? "text-rust" : "text-soft"}`}
        >
          {typeof read === "number"
            ? `Line ${read} is no corner; write it as 40.5001, -79.3002.`
            : corners.length < least && (needed || corners.length > 0)
              ? `${count}; at least ${least === 3 ? "three are" : "one is"} needed.`
              : corners.length === 0
                ? "No new corners: it stays as it is."
                : count}
        </p>
        <Button
          weight="quiet"
          disabled={corners.length === 0}
          onClick={() => onCorners(corners.slice(0, -1))}
        >
          Undo corner
        </Button>
      </div>
    </div>
  );
}
