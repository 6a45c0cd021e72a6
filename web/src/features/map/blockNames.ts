import { type Map as MapView, Marker } from "maplibre-gl";
import type { Block, Row } from "@/shared/records/reads";

type Point = [number, number];
const MARGIN_PX = 6;
const STEPS = 24;

/** The outer ring of a block, [lon, lat]. */
export function outlineOf(block: Block): Point[] {
  return (block.boundary as { coordinates: Point[][] }).coordinates[0] ?? [];
}

/** Writes each block's name inside its outline, and not at all where it does not fit. Names are page elements: no glyph files are needed. */
export function nameBlocks(view: MapView, blocks: Block[], rows: Row[]): () => void {
  const stems = rows.flatMap((r): Point[] => (r.lon !== null && r.lat !== null ? [[r.lon, r.lat]] : []));
  const names = blocks.map((block) => {
    const element = document.createElement("span");
    element.textContent = block.name;
    element.className =
      "pointer-events-none whitespace-nowrap bg-paper/80 px-1 font-sans text-sm font-bold text-ink";
    return {
      block,
      element,
      marker: new Marker({ element, anchor: "top-left" })
        .setLngLat(outlineOf(block)[0] ?? [0, 0])
        .addTo(view),
    };
  });
  const place = () => {
    const circles = stems.map((at) => toPoint(view.project(at)));
    for (const { block, element, marker } of names) {
      const ring = outlineOf(block).map((at) => toPoint(view.project(at)));
      const at = fitting(ring, element.offsetWidth, element.offsetHeight, view.getContainer(), circles);
      element.hidden = at === null;
      if (at) marker.setLngLat(view.unproject(at));
    }
  };
  place();
  view.on("moveend", place);
  view.on("resize", place);
  return () => {
    view.off("moveend", place);
    view.off("resize", place);
    for (const { marker } of names) marker.remove();
  };
}

const toPoint = ({ x, y }: { x: number; y: number }): Point => [x, y];

/**
 * Where the top left corner of a label of that size goes so that all of it lies inside the ring and on screen and it hides
 * the fewest stems; null where it does not fit.
 */
function fitting(
  ring: Point[],
  width: number,
  height: number,
  screen: HTMLElement,
  stems: Point[],
): Point | null {
  let best: { at: Point; hidden: number } | null = null;
  const left = Math.max(0, Math.min(...ring.map((p) => p[0])));
  const top = Math.max(0, Math.min(...ring.map((p) => p[1])));
  const right = Math.min(screen.clientWidth, Math.max(...ring.map((p) => p[0])));
  const bottom = Math.min(screen.clientHeight, Math.max(...ring.map((p) => p[1])));
  for (let row = 0; row <= STEPS; row++) {
    for (let column = 0; column <= STEPS; column++) {
      const x = left + MARGIN_PX + (column / STEPS) * (right - left);
      const y = top + MARGIN_PX + (row / STEPS) * (bottom - top);
      const corners: Point[] = [
        [x, y],
        [x + width, y],
        [x + width, y + height],
        [x, y + height],
      ];
      if (!corners.every((c) => c[0] <= right && c[1] <= bottom && inside(c, ring))) continue;
      const near = (p: Point) =>
        p[0] > x - MARGIN_PX &&
        p[0] < x + width + MARGIN_PX &&
        p[1] > y - MARGIN_PX &&
        p[1] < y + height + MARGIN_PX;
      const hidden = stems.filter(near).length;
      if (hidden === 0) return [x, y];
      if (best === null || hidden < best.hidden) best = { at: [x, y], hidden };
    }
  }
  return best?.at ?? null;
}

/** Whether a point lies in a ring: a ray from it crosses the ring an odd number of times. */
function inside([x, y]: Point, ring: Point[]): boolean {
  let odd = false;
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    const [xi, yi] = ring[i] as Point;
    const [xj, yj] = ring[j] as Point;
    if (yi > y !== yj > y && x < ((xj - xi) * (y - yi)) / (yj - yi) + xi) odd = !odd;
  }
  return odd;
}
