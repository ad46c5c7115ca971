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

/** What of the ladders is drawn: from the first to the last of each. */
export interface Shown {
  shutterS: [number, number];
  iso: [number, number];
}

/** Where the plotting area is in the drawing, and what of the ladders it shows. */
export interface Area {
  left: number;
  top: number;
  right: number;
  bottom: number;
  shown: Shown;
}

/** Stops shown beyond what is open, and at least in all. */
const BEYOND_STOPS = 2;
const LEAST_STOPS = 4;

/** What is open of the wanted exposure, with two stops around it; around a pair where nothing is. */
export function shownOf(map: ExposureMap, pair: Pair | null): Shown {
  const open = (map.open ?? []).map((end) => ({ shutterS: end.shutter_s, iso: end.iso }));
  const at = pair && {
    shutterS: map.shutters[pair.column]?.value_s ?? 1,
    iso: map.isos[pair.row]?.value ?? 1,
  };
  const points = at ? [...open, at] : open;
  const ladders = {
    shutterS: map.shutters.map((step) => step.value_s),
    iso: map.isos.map((step) => step.value),
  };
  return {
    shutterS: around(
      points.map((point) => point.shutterS),
      ladders.shutterS,
    ),
    iso: around(
      points.map((point) => point.iso),
      ladders.iso,
    ),
  };
}

function around(values: number[], ladder: number[]): [number, number] {
  const [least, most] = [Math.log2(Math.min(...ladder)), Math.log2(Math.max(...ladder))];
  if (values.length === 0) return [2 ** least, 2 ** most];
  const [from, to] = [Math.log2(Math.min(...values)), Math.log2(Math.max(...values))];
  const spare = Math.max(BEYOND_STOPS, (LEAST_STOPS - (to - from)) / 2);
  let [low, high] = [from - spare, to + spare];
  // At an end of the ladder the other side gets the room.
  if (low < least) [low, high] = [least, Math.max(high, least + LEAST_STOPS)];
  if (high > most) [low, high] = [Math.min(low, most - LEAST_STOPS), most];
  return [2 ** Math.max(low, least), 2 ** Math.min(high, most)];
}

/** Whether a pair is in what is drawn. */
export function isShown(map: ExposureMap, area: Area, pair: Pair): boolean {
  const { x, y } = pointOf(map, area, pair);
  return x >= area.left - 1 && x <= area.right + 1 && y >= area.top - 1 && y <= area.bottom + 1;
}

const lerp = (from: number, to: number, share: number) => from + (to - from) * share;

function share(value: number, first: number, last: number): number {
  return first === last ? 0.5 : Math.log(value / first) / Math.log(last / first);
}

/** Horizontal place of a shutter time; the axis is logarithmic. */
export function xOf(area: Area, shutterS: number): number {
  return lerp(area.left, area.right, share(shutterS, ...area.shown.shutterS));
}

/** Vertical place of an ISO, rising upwards. */
export function yOf(area: Area, iso: number): number {
  return lerp(area.bottom, area.top, share(iso, ...area.shown.iso));
}

export function pointOf(map: ExposureMap, area: Area, pair: Pair): Point {
  return {
    x: xOf(area, map.shutters[pair.column]?.value_s ?? 1),
    y: yOf(area, map.isos[pair.row]?.value ?? 1),
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

/** Whether a pair is on the wanted exposure, as near as the phone's steps come. */
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

/** Cells (as rectangles between neighbouring steps) that limits forbid, merged row by row. */
export function forbiddenRuns(map: ExposureMap, area: Area, limitIds: string[]) {
  const bits = limitIds.map((id) => map.limit_ids.indexOf(id)).filter((bit) => bit >= 0);
  const edges = (places: number[]) =>
    places.map((place, index) => {
      const before = places[index - 1] ?? place;
      const after = places[index + 1] ?? place;
      return [(before + place) / 2, (place + after) / 2] as const;
    });
  const xs = edges(map.shutters.map((step) => xOf(area, step.value_s)));
  const ys = edges(map.isos.map((step) => yOf(area, step.value)));
  const runs: { x: number; y: number; width: number; height: number }[] = [];
  map.broken.forEach((row, index) => {
    const [bottom = 0, top = 0] = ys[index] ?? [];
    let start: number | null = null;
    row.concat(0).forEach((mask, column) => {
      const broken = column < row.length && bits.some((bit) => ((mask >> bit) & 1) === 1);
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
