import type { LayerSpecification } from "maplibre-gl";
import type { Corner } from "./corners";

const HALF_M = 150; // of the first view of a site without blocks
const M_PER_DEGREE = 111_320;

/** Two corners of a square around a place, in degrees. */
export function square([lon, lat]: Corner): Corner[] {
  const high = HALF_M / M_PER_DEGREE;
  const wide = high / Math.max(0.05, Math.cos((lat * Math.PI) / 180));
  return [
    [lon - wide, lat - high],
    [lon + wide, lat + high],
  ];
}

/** What has been drawn of a block: its corners, and the line or the area between them. */
export function sketchShapes(corners: Corner[]): GeoJSON.FeatureCollection {
  const geometries: GeoJSON.Geometry[] = corners.map((at) => ({ type: "Point", coordinates: at }));
  const [first] = corners;
  if (corners.length === 2) geometries.push({ type: "LineString", coordinates: corners });
  if (first && corners.length > 2) geometries.push({ type: "Polygon", coordinates: [[...corners, first]] });
  return {
    type: "FeatureCollection",
    features: geometries.map((geometry) => ({ type: "Feature", geometry, properties: {} })),
  };
}

/** How it is drawn: over everything else. */
export function sketchLayers(colour: string): LayerSpecification[] {
  const source = "sketch";
  return [
    {
      id: "sketch-area",
      type: "fill",
      source,
      filter: ["==", ["geometry-type"], "Polygon"],
      paint: { "fill-color": colour, "fill-opacity": 0.15 },
    },
    {
      id: "sketch-edge",
      type: "line",
      source,
      filter: ["!=", ["geometry-type"], "Point"],
      paint: { "line-color": colour, "line-width": 3 },
    },
    {
      id: "sketch-corners",
      type: "circle",
      source,
      filter: ["==", ["geometry-type"], "Point"],
      paint: { "circle-radius": 6, "circle-color": colour },
    },
  ];
}
