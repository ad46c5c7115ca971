/** Numbers as people type them: 30 km/h, 20 ft, 1/250, 2 min, 5500K, 1,5. */

const SPEED = { "m/s": 1, "km/h": 1 / 3.6, kmh: 1 / 3.6, kph: 1 / 3.6, mph: 0.44704 };
const KINDS: Record<string, number>[] = [
  {
    m: 1,
    mm: 0.001,
    cm: 0.01,
    km: 1000,
    ft: 0.3048,
    "'": 0.3048,
    in: 0.0254,
    '"': 0.0254,
    yd: 0.9144,
  },
  { ...SPEED, "mm/s": 0.001, "cm/s": 0.01, kn: 0.514444, knots: 0.514444, "ft/s": 0.3048 },
  { s: 1, sec: 1, ms: 0.001, µs: 1e-6, min: 60, h: 3600, hours: 3600 },
  { MB: 1, GB: 1000, "MB a frame": 1 },
  { lm: 1 },
  { K: 1, k: 1 },
  { "°": 1, deg: 1, degrees: 1 },
  { px: 1, pixels: 1 },
  { "%": 1 },
  { stops: 1, stop: 1, EV: 1, EV100: 1, "stops from mid": 1 },
  { mired: 1 },
];
const PART = /^([+-]?(?:\d+\.?\d*|\.\d+)(?:\/\d+\.?\d*)?)\s*([^\d+\-.]*?)\s*(?=[\d.]|$)/;

/**
 * The number that was typed, in the unit of its field; NaN where it is none, or of another kind.
 * Parts add up: 1 min 30 s, 5 ft 6 in.
 */
export function typed(text: string, unit = ""): number {
  let rest = text.trim().replaceAll("−", "-").replaceAll(",", ".");
  let sum = rest === "" ? NaN : 0;
  while (rest !== "") {
    const part = PART.exec(rest);
    if (!part) return NaN;
    sum += amount(part[1] ?? "") * factor((part[2] ?? "").trim(), unit);
    rest = rest.slice(part[0].length);
  }
  return sum;
}

function amount(text: string): number {
  const [over, under] = text.split("/").map(Number);
  return under === undefined ? (over ?? NaN) : (over ?? NaN) / under;
}

/** What one of the typed unit is in the field's; a unit of another kind is none. */
function factor(written: string, unit: string): number {
  if (written === "" || written === unit) return 1;
  const kind = KINDS.find((units) => unit in units && written in units);
  return kind ? (kind[written] ?? NaN) / (kind[unit] ?? NaN) : NaN;
}
