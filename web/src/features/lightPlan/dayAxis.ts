/** Places on a strip of 24 hours, in pixels, and back. */
export function dayAxis(first: number, last: number, width: number) {
  return {
    at: (unix: number) => (width * (unix - first)) / (last - first),
    unix: (x: number) => first + ((last - first) * x) / width,
  };
}

/** What the clock says at a moment, from its ISO 8601. */
export const clockOf = (iso: string) => iso.slice(11, 16);

const DARKEST = -12;
const LIGHTEST = 15.5;

/** A grey for a light: as dark and light as the strip goes, in even stops. */
export function greyOf(ev100: number): string {
  const share = Math.max(0, Math.min(1, (ev100 - DARKEST) / (LIGHTEST - DARKEST)));
  const code = Math.round(12 + 240 * share);
  return `rgb(${code} ${code} ${code})`;
}

/** A date so many days later, both as YYYY-MM-DD. */
export function dayAfter(date: string, days: number): string {
  const at = new Date(`${date}T12:00:00Z`);
  at.setUTCDate(at.getUTCDate() + days);
  return at.toISOString().slice(0, 10);
}
