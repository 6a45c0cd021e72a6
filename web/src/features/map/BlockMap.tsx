import {
  type GeoJSONSource,
  type MapMouseEvent,
  Map as MapView,
  Marker,
  NavigationControl,
  ScaleControl,
  type StyleSpecification,
  setWorkerUrl,
} from "maplibre-gl";
import workerUrl from "maplibre-gl/dist/maplibre-gl-worker.mjs?worker&url";
import "maplibre-gl/dist/maplibre-gl.css";
import { useEffect, useRef, useState } from "react";
import type { Block, Row, Target } from "@/shared/records/reads";
import type { System } from "@/shared/site/units";
import { nameBlocks, outlineOf } from "./blockNames";
import { sketchLayers, sketchShapes, square } from "./sketch";
import { targetLayers, targetShapes } from "./targets";

setWorkerUrl(workerUrl);

interface Props {
  blocks: Block[];
  chosen: Block | undefined;
  rows: Row[];
  selected: string | null;
  mark: [number, number] | null;
  /** what trees may fall on */
  targets: Target[];
  /** corners of a block or a target that is being drawn */
  sketch: [number, number][];
  /** where the map is while there is no block: [longitude, latitude] */
  middle: [number, number] | undefined;
  /** in which the scale is drawn */
  system: System;
  /** every tap is a corner, also one on a tree */
  drawing: boolean;
  onBlock: (id: string) => void;
  onPlant: (id: string) => void;
  onPlace: (lon: number, lat: number) => void;
}

const colour = (name: string) =>
  getComputedStyle(document.documentElement).getPropertyValue(`--color-${name}`).trim();

/** The plan: blocks by outline, stems by size and state. A tap on a stem picks it; a tap on the ground sets a place. */
export function BlockMap(props: Props) {
  const {
    blocks,
    chosen,
    rows,
    selected,
    mark,
    targets,
    sketch,
    middle,
    system,
    drawing,
    onBlock,
    onPlant,
    onPlace,
  } = props;
  const box = useRef<HTMLDivElement>(null);
  const act = useRef({ drawing, onBlock, onPlant, onPlace });
  act.current = { drawing, onBlock, onPlant, onPlace };
  const [view, setView] = useState<MapView | null>(null); // not before it has loaded: what is put in earlier is lost
  const [fitted, setFitted] = useState(false);
  const takesTaps = useRef(false); // a tap before the plan shows its block would set a stem anywhere on Earth
  takesTaps.current = fitted;

  useEffect(() => {
    if (!box.current) return;
    const map = new MapView({
      container: box.current,
      style: emptyStyle(),
      attributionControl: false,
      dragRotate: false,
      pitchWithRotate: false,
      maxZoom: 22,
    });
    map.touchZoomRotate.disableRotation();
    map.addControl(new NavigationControl({ showCompass: false }), "top-right");
    map.on("click", (event: MapMouseEvent) => {
      if (!takesTaps.current) return;
      if (act.current.drawing) return act.current.onPlace(event.lngLat.lng, event.lngLat.lat);
      const near: [[number, number], [number, number]] = [
        [event.point.x - 8, event.point.y - 8],
        [event.point.x + 8, event.point.y + 8],
      ];
      const hit = map.queryRenderedFeatures(near, { layers: ["stems", "groups"] })[0];
      if (hit) return act.current.onPlant(String(hit.properties["id"]));
      const block = map.queryRenderedFeatures(event.point, { layers: ["blocks"] })[0];
      act.current.onPlace(event.lngLat.lng, event.lngLat.lat);
      if (block) act.current.onBlock(String(block.properties["id"]));
    });
    map.once("load", () => setView(map));
    return () => {
      map.remove();
      setView(null);
    };
  }, []);

  useEffect(() => {
    if (!view) return;
    const scale = new ScaleControl({ maxWidth: 120, unit: system === "metric" ? "metric" : "imperial" });
    view.addControl(scale, "bottom-right");
    return () => {
      if (view.hasControl(scale)) view.removeControl(scale);
    };
  }, [view, system]);
  useEffect(() => put(view, "blocks", blockShapes(blocks, chosen)), [view, blocks, chosen]);
  useEffect(() => put(view, "groups", groupShapes(rows)), [view, rows]);
  useEffect(() => put(view, "stems", stemPoints(rows, selected)), [view, rows, selected]);

  useEffect(() => put(view, "targets", targetShapes(targets)), [view, targets]);
  useEffect(() => put(view, "sketch", sketchShapes(sketch)), [view, sketch]);

  const shown = chosen ? chosen.id : blocks.map((b) => b.id).join(" ") || String(middle);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the view moves when other blocks are shown, not when their data is read again
  useEffect(() => {
    const around = middle && blocks.length === 0 ? square(middle) : [];
    const ring = [...(chosen ? [chosen] : blocks).flatMap(outlineOf), ...around];
    if (!view || ring.length === 0) return;
    const lons = ring.map((p) => p[0]);
    const lats = ring.map((p) => p[1]);
    const bounds: [[number, number], [number, number]] = [
      [Math.min(...lons), Math.min(...lats)],
      [Math.max(...lons), Math.max(...lats)],
    ];
    view.fitBounds(bounds, { padding: 30, animate: false });
    setFitted(true);
  }, [view, shown]);

  useEffect(() => (view ? nameBlocks(view, blocks, rows) : undefined), [view, blocks, rows]);

  useEffect(() => {
    if (!mark || !view) return;
    const pin = new Marker({ color: colour("rust") }).setLngLat(mark).addTo(view);
    return () => {
      pin.remove();
    };
  }, [mark, view]);

  const placed = rows.filter((r) => r.lon !== null || r.outline).length;
  return (
    <>
      <div
        ref={box}
        className="h-full w-full"
        role="application"
        aria-busy={!fitted}
        aria-label={`Plan of the blocks with ${placed} plants. The list beside it holds the same.`}
      />
      <p className="pointer-events-none absolute bottom-1 left-1 bg-paper px-2 py-1 text-sm">
        <span className="text-moss">●</span> named · ○ not named · <strong className="text-rust">○</strong>{" "}
        dead or gone · <span className="text-moss">┅</span> group
        {rows.some((r) => r.form === "vacant") && (
          <>
            {" "}
            · <strong className="text-slate">○</strong> vacant place
          </>
        )}
        {targets.length > 0 && (
          <>
            {" "}
            · <span className="text-slate">▬</span> target
          </>
        )}
      </p>
    </>
  );
}

function put(view: MapView | null, source: string, data: GeoJSON.FeatureCollection): void {
  void (view?.getSource(source) as GeoJSONSource | undefined)?.setData(data);
}

const empty = { type: "FeatureCollection", features: [] } as GeoJSON.FeatureCollection;

function emptyStyle(): StyleSpecification {
  return {
    version: 8,
    sources: {
      blocks: { type: "geojson", data: empty },
      groups: { type: "geojson", data: empty },
      stems: { type: "geojson", data: empty },
      targets: { type: "geojson", data: empty },
      sketch: { type: "geojson", data: empty },
    },
    layers: [
      { id: "paper", type: "background", paint: { "background-color": colour("paper") } },
      {
        id: "blocks",
        type: "fill",
        source: "blocks",
        paint: {
          "fill-color": ["case", ["get", "chosen"], colour("sheet"), colour("rule")],
          "fill-opacity": ["case", ["get", "chosen"], 1, 0.45],
        },
      },
      {
        id: "edges",
        type: "line",
        source: "blocks",
        paint: {
          "line-color": ["case", ["get", "chosen"], colour("ink"), colour("soft")],
          "line-width": ["case", ["get", "chosen"], 2, 1],
        },
      },
      ...targetLayers(colour("slate")),
      {
        id: "groups",
        type: "fill",
        source: "groups",
        paint: { "fill-color": colour("moss"), "fill-opacity": 0.25 },
      },
      {
        id: "group-edges",
        type: "line",
        source: "groups",
        paint: { "line-color": colour("moss"), "line-width": 2, "line-dasharray": [2, 2] },
      },
      {
        id: "stems",
        type: "circle",
        source: "stems",
        paint: {
          "circle-radius": [
            "interpolate",
            ["exponential", 2],
            ["zoom"],
            16,
            ["+", 2.5, ["*", 0.06, ["get", "size"]]],
            21,
            ["+", 3, ["*", 0.5, ["get", "size"]]],
          ],
          "circle-color": [
            "match",
            ["get", "state"],
            "dead",
            colour("sheet"),
            "unnamed",
            colour("sheet"),
            "vacant",
            colour("sheet"),
            "chosen",
            colour("ochre"),
            colour("moss"),
          ],
          "circle-stroke-color": [
            "match",
            ["get", "state"],
            "dead",
            colour("rust"),
            "vacant",
            colour("slate"),
            colour("ink"),
          ],
          "circle-stroke-width": ["match", ["get", "state"], "chosen", 3, "dead", 3, 1],
        },
      },
      ...sketchLayers(colour("rust")),
    ],
  };
}

function blockShapes(blocks: Block[], chosen: Block | undefined): GeoJSON.FeatureCollection {
  return {
    type: "FeatureCollection",
    features: blocks.map((b) => ({
      type: "Feature",
      geometry: b.boundary as unknown as GeoJSON.Polygon,
      properties: { id: b.id, chosen: b.id === chosen?.id },
    })),
  };
}

function groupShapes(rows: Row[]): GeoJSON.FeatureCollection {
  const shapes = rows.filter((r) => r.outline);
  return {
    type: "FeatureCollection",
    features: shapes.map((r) => ({
      type: "Feature",
      geometry: r.outline as unknown as GeoJSON.Geometry,
      properties: { id: r.id },
    })),
  };
}

const stateOf = (r: Row, selected: string | null) =>
  r.id === selected
    ? "chosen"
    : r.form === "vacant"
      ? "vacant"
      : r.life !== "alive"
        ? "dead"
        : r.name
          ? "named"
          : "unnamed";

function stemPoints(rows: Row[], selected: string | null): GeoJSON.FeatureCollection {
  return {
    type: "FeatureCollection",
    features: rows
      .filter((r) => r.lon !== null && r.lat !== null && !(r.form === "vacant" && r.life === "removed"))
      .map((r) => ({
        type: "Feature",
        geometry: { type: "Point", coordinates: [r.lon as number, r.lat as number] },
        properties: {
          id: r.id,
          size: r.dbh_cm ?? 5,
          state: stateOf(r, selected),
        },
      })),
  };
}
