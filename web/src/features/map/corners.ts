/** A corner of a boundary: longitude, latitude. */
export type Corner = [number, number];
type Ring = Corner[];

export interface Boundary {
  type: "Polygon";
  coordinates: Ring[];
}

const PLACES = 6; // of a degree: a decimetre

/** Corners as lines of "latitude, longitude", as maps and receivers write them. */
export const asLines = (corners: Corner[]): string =>
  corners.map(([lon, lat]) => `${lat.toFixed(PLACES)}, ${lon.toFixed(PLACES)}`).join("\n");

/** The corners of such lines; the number of the first line that is none. Empty lines are passed over. */
export function readLines(text: string): Corner[] | number {
  const corners: Corner[] = [];
  for (const [i, line] of text.split("\n").entries()) {
    if (!line.trim()) continue;
    const [lat, lon, ...more] = line
      .trim()
      .split(/[\s,;]+/)
      .map(Number);
    const sound =
      more.length === 0 && Math.abs(lat ?? Number.NaN) <= 90 && Math.abs(lon ?? Number.NaN) <= 180;
    if (lat === undefined || lon === undefined || !sound) return i + 1;
    corners.push([lon, lat]);
  }
  return corners;
}

/** The boundary through the corners, closed. */
export const around = (corners: Corner[]): Boundary => ({
  type: "Polygon",
  coordinates: [corners[0] ? [...corners, corners[0]] : []],
});

/** Every polygon of a GeoJSON file with the name its feature has. Throws a sentence where there is none. */
export function polygonsOf(text: string): { name: string; boundary: Boundary }[] {
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    throw new Error("The file is no JSON. A GeoJSON file holds polygons in longitude and latitude (WGS 84).");
  }
  const found = [...collected(read, "")];
  if (found.length === 0) throw new Error("The file holds no polygon.");
  return found;
}

function* collected(raw: unknown, name: string): Generator<{ name: string; boundary: Boundary }> {
  if (typeof raw !== "object" || raw === null) return;
  const it = raw as Record<string, unknown>;
  if (it["type"] === "FeatureCollection" && Array.isArray(it["features"]))
    for (const feature of it["features"]) yield* collected(feature, "");
  if (it["type"] === "Feature") {
    const properties = (it["properties"] ?? {}) as Record<string, unknown>;
    const own = properties["name"] ?? properties["Name"] ?? it["id"];
    yield* collected(it["geometry"], typeof own === "string" ? own : "");
  }
  if (it["type"] === "GeometryCollection" && Array.isArray(it["geometries"]))
    for (const geometry of it["geometries"]) yield* collected(geometry, name);
  if (it["type"] === "Polygon" && Array.isArray(it["coordinates"]))
    yield { name, boundary: { type: "Polygon", coordinates: it["coordinates"] as Ring[] } };
  if (it["type"] === "MultiPolygon" && Array.isArray(it["coordinates"]))
    for (const [i, coordinates] of it["coordinates"].entries())
      yield {
        name: it["coordinates"].length > 1 ? `${name} ${i + 1}`.trim() : name,
        boundary: { type: "Polygon", coordinates: coordinates as Ring[] },
      };
}
