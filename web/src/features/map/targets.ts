import type { LayerSpecification } from "maplibre-gl";
import type { Schemas } from "@/api/client";
import type { Target } from "@/shared/records/reads";
import { around, type Corner } from "./corners";

type Shape = Schemas["TargetIn"]["shape"];

/** The shape through corners: a point, a line, or the area within them. */
export function shapeOf(corners: Corner[], closed: boolean): Shape | undefined {
  const [first] = corners;
  if (!first) return undefined;
  if (corners.length === 1) return { type: "Point", coordinates: [...first] };
  if (closed && corners.length > 2) return around(corners);
  return { type: "LineString", coordinates: corners };
}

/** The corners of a shape that is there, and whether it is an area. */
export function cornersOf(shape: Target["shape"]): { corners: Corner[]; closed: boolean } {
  const at = shape["coordinates"];
  if (shape["type"] === "Point") return { corners: [at as Corner], closed: false };
  if (shape["type"] === "LineString") return { corners: at as Corner[], closed: false };
  return { corners: ((at as Corner[][])[0] ?? []).slice(0, -1), closed: true };
}

export function targetShapes(targets: Target[]): GeoJSON.FeatureCollection {
  return {
    type: "FeatureCollection",
    features: targets.map((t) => ({
      type: "Feature",
      geometry: t.shape as unknown as GeoJSON.Geometry,
      properties: { id: t.id },
    })),
  };
}

/** How targets are drawn: under the trees, by outline more than by colour. */
export function targetLayers(colour: string): LayerSpecification[] {
  const source = "targets";
  return [
    {
      id: "target-areas",
      type: "fill",
      source,
      filter: ["==", ["geometry-type"], "Polygon"],
      paint: { "fill-color": colour, "fill-opacity": 0.12 },
    },
    {
      id: "target-lines",
      type: "line",
      source,
      filter: ["!=", ["geometry-type"], "Point"],
      paint: { "line-color": colour, "line-width": 4, "line-opacity": 0.7 },
    },
    {
      id: "target-points",
      type: "circle",
      source,
      filter: ["==", ["geometry-type"], "Point"],
      paint: { "circle-radius": 7, "circle-color": colour, "circle-opacity": 0.7 },
    },
  ];
}
