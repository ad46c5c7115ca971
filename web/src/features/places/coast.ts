import { queryOptions } from "@tanstack/react-query";
import { feature } from "topojson-client";
import type { GeometryCollection, Topology } from "topojson-specification";
import fine from "world-atlas/land-10m.json?url";
import middling from "world-atlas/land-50m.json?url";
import coarse from "world-atlas/land-110m.json?url";
import { rounded } from "../../ui/numbers";

/** A piece of land or a lake in it: places east and north, and the box about them. */
export interface Ring {
  places: readonly (readonly [number, number])[];
  west: number;
  east: number;
  south: number;
  north: number;
}

type World = Topology<{ land: GeometryCollection }>;

/** The land of the world as fine as a map of so many degrees shows it. */
export const coastQuery = (spanDeg: number) => {
  const address = spanDeg > 50 ? coarse : spanDeg > 8 ? middling : fine;
  return queryOptions({
    queryKey: ["coast", address],
    queryFn: async () => ringsOf((await (await fetch(address)).json()) as World),
    staleTime: Infinity,
  });
};

function ringsOf(world: World): Ring[] {
  const rings: Ring[] = [];
  for (const item of feature(world, world.objects.land).features) {
    const shape = item.geometry;
    if (shape.type === "Polygon") rings.push(...shape.coordinates.map(ringOf));
    if (shape.type === "MultiPolygon") rings.push(...shape.coordinates.flat().map(ringOf));
  }
  return rings;
}

function ringOf(places: number[][]): Ring {
  const ring = { west: 180, east: -180, south: 90, north: -90 };
  for (const [east = 0, north = 0] of places) {
    ring.west = Math.min(ring.west, east);
    ring.east = Math.max(ring.east, east);
    ring.south = Math.min(ring.south, north);
    ring.north = Math.max(ring.north, north);
  }
  return { ...ring, places: places as [number, number][] };
}

interface Shown {
  west: number;
  east: number;
  south: number;
  north: number;
  x: (east: number) => number;
  y: (north: number) => number;
}

const LEAST_PX = 0.8;

/** The outline, as an SVG path, of the foreground in view; steps too small to see left out. */
export function coastPath(rings: readonly Ring[], view: Shown): string {
  const parts: string[] = [];
  // A view over the date line sees the world once more beside itself.
  for (const turn of [-360, 0, 360])
    for (const ring of rings)
      if (
        ring.east + turn > view.west &&
        ring.west + turn < view.east &&
        ring.north > view.south &&
        ring.south < view.north
      )
        parts.push(outline(ring, turn, view));
  return parts.join("");
}

function outline(ring: Ring, turn: number, { x, y }: Shown): string {
  let [lastX, lastY] = [NaN, NaN];
  const steps: string[] = [];
  for (const [east, north] of ring.places) {
    const [px, py] = [x(east + turn), y(north)];
    if (Math.abs(px - lastX) < LEAST_PX && Math.abs(py - lastY) < LEAST_PX) continue;
    steps.push(`${rounded(px, 1)} ${rounded(py, 1)}`);
    [lastX, lastY] = [px, py];
  }
  return steps.length > 2 ? `M${steps.join("L")}Z` : "";
}
