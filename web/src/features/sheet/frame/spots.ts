import type { Asks, Role, SheetBody, SpotBody, SpotRole } from "../../../api/client";

export type SpotRules = Asks["spot"];

const STEP = 0.005;
const LARGE_STEP = 0.03;
const FINER = 1.25;
const ARROWS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

const within = (value: number, low: number, high: number) => Math.max(low, Math.min(high, value));

/** An id nothing on the sheet has yet. */
export function freeId(body: SheetBody, stem: string): string {
  const taken = new Set([...body.spots, ...body.readings].map((each) => each.id));
  let number = 1;
  while (taken.has(`${stem}-${number}`)) number += 1;
  return `${stem}-${number}`;
}

/** A new spot at a place: its tone shows, and no setting depends on it until it is given a role. */
export function newSpot(body: SheetBody, rules: SpotRules, at: { x: number; y: number }): SpotBody {
  const role = rules.new_role;
  return { id: freeId(body, "spot"), name: "", role, r: rules.r, place: null, ...at };
}

/** The role of the next reading beside the spots and readings there are. */
export function nextRole(others: { role: SpotRole }[], rules: SpotRules): Role {
  const taken = others.some((other) => other.role === rules.first_role);
  return taken ? rules.later_role : rules.first_role;
}

/** A spot after an arrow key; null for any other key. */
export function movedSpot(spot: SpotBody, key: string, large: boolean): SpotBody | null {
  const arrow = ARROWS[key];
  if (!arrow) return null;
  const step = large ? LARGE_STEP : STEP;
  return {
    ...spot,
    x: within(spot.x + arrow[0] * step, 0, 1),
    y: within(spot.y + arrow[1] * step, 0, 1),
  };
}

/** A spot's size kept between the smallest and the largest there may be. */
export function sizeWithin(r: number, rules: SpotRules): number {
  return within(r, rules.smallest, rules.largest);
}

/** A spot after + or −; null for any other key. */
export function resizedSpot(spot: SpotBody, key: string, rules: SpotRules): SpotBody | null {
  if (key === "+" || key === "=") return { ...spot, r: sizeWithin(spot.r * FINER, rules) };
  if (key === "-") return { ...spot, r: sizeWithin(spot.r / FINER, rules) };
  return null;
}

/** The body without a spot. */
export function withoutSpot(body: SheetBody, id: string): SheetBody {
  return { ...body, spots: body.spots.filter((each) => each.id !== id) };
}

/** The body with one spot replaced. */
export function withSpot(body: SheetBody, spot: SpotBody): SheetBody {
  return { ...body, spots: body.spots.map((each) => (each.id === spot.id ? spot : each)) };
}
