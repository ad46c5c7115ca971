/** Units of the W3C standards for cameras, and Oxlen's: converted here and nowhere else. */

import type { LiveCan, LiveSettings } from "./camera";

/** exposureTime is in units of 100 µs (MediaStream Image Capture). */
const EXPOSURE_UNIT_S = 1e-4;
/** Nearer than this many metres no phone focuses; 0 means unknown. */
const NEAREST_M = 0.01;
const FARTHEST_M = 100;

export interface Range {
  min?: number;
  max?: number;
  step?: number;
}

/** The parts of a track's capabilities that matter here. */
export interface TrackCan {
  exposureMode?: string[];
  exposureTime?: Range;
  exposureCompensation?: Range;
  iso?: Range;
  whiteBalanceMode?: string[];
  colorTemperature?: Range;
  focusMode?: string[];
  focusDistance?: Range;
  pointsOfInterest?: unknown;
  torch?: boolean;
}

/** The parts of a track's settings that matter here. */
export interface TrackSettings {
  exposureMode?: string;
  exposureTime?: number;
  iso?: number;
  whiteBalanceMode?: string;
  colorTemperature?: number;
  focusMode?: string;
  focusDistance?: number;
}

export type TrackConstraint = TrackSettings;

type Dial = NonNullable<LiveCan["iso"]>;

/** What a track can do, in seconds, ISO, kelvin, dioptres and stops. */
export function canOf(can: TrackCan, takesPhotos: boolean): LiveCan {
  const byHand = (modes: string[] | undefined) => modes?.includes("manual") ?? false;
  return {
    shutter_s: dial(can.exposureTime, byHand(can.exposureMode), (value) => value * EXPOSURE_UNIT_S),
    iso: dial(can.iso, byHand(can.exposureMode), (value) => value),
    white_k: dial(can.colorTemperature, byHand(can.whiteBalanceMode), (value) => value),
    focus_dioptres: dial(can.focusDistance, byHand(can.focusMode), dioptres),
    compensation_stops: dial(can.exposureCompensation, true, (value) => value),
    photo: takesPhotos,
    points: can.pointsOfInterest !== undefined,
    torch: can.torch === true,
  };
}

/** Settings of a track; null for what it does not tell, or what no camera can be set to. */
export function settingsOf(set: TrackSettings): LiveSettings {
  const positive = (value: number | undefined) => (value && value > 0 ? value : null);
  const units = positive(set.exposureTime);
  return {
    shutter_s: units === null ? null : units * EXPOSURE_UNIT_S,
    iso: positive(set.iso),
    white_k: positive(set.colorTemperature),
    focus_dioptres: set.focusDistance === undefined ? null : dioptres(set.focusDistance),
  };
}

/** What to ask of a track, one constraint for each setting it can be set to by hand. */
export function constraintsFor(wanted: LiveSettings, can: LiveCan): TrackConstraint[] {
  const found: TrackConstraint[] = [];
  if (wanted.shutter_s != null && can.shutter_s?.can_set)
    found.push({
      exposureMode: "manual",
      exposureTime: within(wanted.shutter_s, can.shutter_s) / EXPOSURE_UNIT_S,
    });
  if (wanted.iso != null && can.iso?.can_set)
    found.push({ exposureMode: "manual", iso: within(wanted.iso, can.iso) });
  if (wanted.white_k != null && can.white_k?.can_set)
    found.push({
      whiteBalanceMode: "manual",
      colorTemperature: within(wanted.white_k, can.white_k),
    });
  if (wanted.focus_dioptres != null && can.focus_dioptres?.can_set)
    found.push({
      focusMode: "manual",
      focusDistance: metres(within(wanted.focus_dioptres, can.focus_dioptres)),
    });
  return found;
}

/** Every setting back on auto. */
export function autoConstraints(can: TrackCan): TrackConstraint[] {
  const found: TrackConstraint[] = [];
  if (can.exposureMode?.includes("continuous")) found.push({ exposureMode: "continuous" });
  if (can.whiteBalanceMode?.includes("continuous")) found.push({ whiteBalanceMode: "continuous" });
  if (can.focusMode?.includes("continuous")) found.push({ focusMode: "continuous" });
  return found;
}

function dial(
  range: Range | undefined,
  isByHand: boolean,
  convert: (value: number) => number,
): Dial | null {
  if (range?.min === undefined || range.max === undefined) return null;
  const ends = [convert(range.min), convert(range.max)];
  const [low, high] = [Math.min(...ends), Math.max(...ends)];
  return { low, high, can_set: isByHand && high > low };
}

const dioptres = (distanceM: number) => 1 / Math.min(FARTHEST_M, Math.max(NEAREST_M, distanceM));
const metres = (focusDioptres: number) =>
  focusDioptres <= 1 / FARTHEST_M ? FARTHEST_M : 1 / focusDioptres;
const within = (value: number, { low, high }: Dial) => Math.min(high, Math.max(low, value));
