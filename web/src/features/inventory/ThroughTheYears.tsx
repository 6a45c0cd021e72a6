import { inWords } from "@/shared/dates";
import { fileOf, standOf } from "@/shared/photo-points/points";
import type { Point } from "@/shared/tree-file";

/** The pictures of each photo point side by side, year after year. */
export function ThroughTheYears({ points }: { points: Point[] }) {
  if (points.length === 0) return null;
  return (
    <section aria-label="Photo points" className="mt-4">
      <h2 className="text-xl">Photo points</h2>
      {points.map((point) => (
        <div key={point.id} className="mt-2">
          <p>
            <strong>{String(point.body["name"])}</strong>{" "}
            <span className="text-soft">{standOf(point.body)}</span>
          </p>
          {point.pictures.length === 0 && <p className="text-sm text-soft">No picture yet.</p>}
          <ul className="mt-1 flex gap-3 overflow-x-auto pb-2">
            {point.pictures.map((picture) => (
              <li key={picture.id} className="w-56 flex-none">
                <a href={fileOf(picture)} target="_blank" rel="noreferrer">
                  <img
                    src={fileOf(picture)}
                    alt={`${point.body["name"]}, ${inWords(picture.on)}`}
                    loading="lazy"
                    className="h-56 w-full border border-rule bg-sheet object-contain"
                  />
                </a>
                <p className="text-sm tabular-nums">{inWords(picture.on)}</p>
              </li>
            ))}
          </ul>
        </div>
      ))}
    </section>
  );
}
