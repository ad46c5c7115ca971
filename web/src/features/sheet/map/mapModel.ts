import type { ExposureMap } from "../../../api/client";

/** A pair of steps on the map: row of the ISO, column of the shutter. */
export interface Pair {
  row: number;
  column: number;
}

/** A point of the drawing. */
export interface Point {
  x: number;
  y: number;
}

/** Where the plotting area lies in the drawing. */
export interface Area {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

const lerp = (from: number, to: number, share: number) => from + (to - from) * share;

function share(value: number, first: number, last: number): number {
  return first === last ? 0.5 : Math.log(value / first) / Math.log(last / first);
}

/** Horizontal place of a shutter time; the axis is logarithmic. */
export function xOf(map: ExposureMap, area: Area, shutterS: number): number {
  const first = map.shutters[0]?.value_s ?? 1;
  const last = map.shutters[map.shutters.length - 1]?.value_s ?? 1;
  return lerp(area.left, area.right, share(shutterS, first, last));
}

/** Vertical place of an ISO, rising upwards. */
export function yOf(map: ExposureMap, area: Area, iso: number): number {
  const first = map.isos[0]?.value ?? 1;
  const last = map.isos[map.isos.length - 1]?.value ?? 1;
  return lerp(area.bottom, area.top, share(iso, first, last));
}

export function pointOf(map: ExposureMap, area: Area, pair: Pair): Point {
  return {
    x: xOf(map, area, map.shutters[pair.column]?.value_s ?? 1),
    y: yOf(map, area, map.isos[pair.row]?.value ?? 1),
  };
}

/** A place the server names by row and column. */
export function pairOf(place: readonly number[] | null): Pair | null {
  const [row, column] = place ?? [];
  return row === undefined || column === undefined ? null : { row, column };
}

/** The pair in force: chosen by hand, else the plan's; null when there is neither. */
export function pairInForce(map: ExposureMap | null): Pair | null {
  return map && (pairOf(map.by_hand) ?? pairOf(map.planned));
}

/** The pairs nearest the wanted exposure, one for each shutter, shortest first. */
export function pathOf(map: ExposureMap): Pair[] {
  return map.path.map(([row = 0, column = 0]) => ({ row, column }));
}

/** Whether a pair lies on the wanted exposure, as near as the phone's steps come. */
export function isOnExposure(map: ExposureMap, pair: Pair): boolean {
  return map.diagonal.some(([row, column]) => row === pair.row && column === pair.column);
}

/** The step of the wanted exposure nearest to a place on the drawing. */
export function nearestOnDiagonal(map: ExposureMap, area: Area, place: Point): Pair | null {
  let best: Pair | null = null;
  let least = Infinity;
  for (const [row, column] of map.diagonal) {
    if (row === undefined || column === undefined) continue;
    const at = pointOf(map, area, { row, column });
    const distance = Math.hypot(at.x - place.x, at.y - place.y);
    if (distance < least) [least, best] = [distance, { row, column }];
  }
  return best;
}

/** The next pair of the path from a pair, towards longer (1) or shorter (−1). */
export function alongPath(map: ExposureMap, from: Pair, way: 1 | -1): Pair {
  const ahead = pathOf(map).filter(({ column }) =>
    way === 1 ? column > from.column : column < from.column,
  );
  return (way === 1 ? ahead[0] : ahead[ahead.length - 1]) ?? from;
}

export function residualOf(map: ExposureMap, pair: Pair): number {
  return map.residual_stops[pair.row]?.[pair.column] ?? 0;
}

export function wordsOf(map: ExposureMap, pair: Pair): string {
  const tenths = Math.round(residualOf(map, pair) * 10);
  return map.residual_words[String(tenths === 0 ? 0 : tenths)] ?? "";
}

/** Ids of the limits a pair breaks. */
export function brokenAt(map: ExposureMap, pair: Pair): string[] {
  const mask = map.broken[pair.row]?.[pair.column] ?? 0;
  return map.limit_ids.filter((_, bit) => (mask >> bit) & 1);
}

/** Cells (as rectangles between neighbouring steps) a limit forbids, merged row by row. */
export function forbiddenRuns(map: ExposureMap, area: Area, limitId: string) {
  const bit = map.limit_ids.indexOf(limitId);
  const edges = (places: number[]) =>
    places.map((place, index) => {
      const before = places[index - 1] ?? place;
      const after = places[index + 1] ?? place;
      return [(before + place) / 2, (place + after) / 2] as const;
    });
  const xs = edges(map.shutters.map((step) => xOf(map, area, step.value_s)));
  const ys = edges(map.isos.map((step) => yOf(map, area, step.value)));
  const runs: { x: number; y: number; width: number; height: number }[] = [];
  map.broken.forEach((row, index) => {
    const [bottom = 0, top = 0] = ys[index] ?? [];
    let start: number | null = null;
    row.concat(0).forEach((mask, column) => {
      const broken = column < row.length && ((mask >> bit) & 1) === 1;
      if (broken && start === null) start = column;
      if (!broken && start !== null) {
        const left = xs[start]?.[0] ?? 0;
        const right = xs[column - 1]?.[1] ?? 0;
        runs.push({ x: left, y: top, width: right - left, height: bottom - top });
        start = null;
      }
    });
  });
  return runs;
}
