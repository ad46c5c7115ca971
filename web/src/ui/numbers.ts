/**
 * How numbers, times and dates are written: true minus, sign where direction matters. Every page
 * uses these; tests/reference/number_cases.json holds this side and the computer's to one table.
 */

const DAYS = ["Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"] as const;
const MONTHS = "Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec".split(" ");

/** So many digits after the point, with a true minus and none on zero. */
export function fixed(value: number, digits: number): string {
  const text = Math.abs(value).toFixed(digits);
  return value < 0 && Number(text) !== 0 ? `−${text}` : text;
}

export function signed(value: number, digits = 1): string {
  const text = fixed(value, digits);
  return value > 0 && Number(text) !== 0 ? `+${text}` : text;
}

/** A number rounded to so many digits after the point. */
export const rounded = (value: number, digits: number) => Number(value.toFixed(digits));

/** A number to so many digits that count. */
export const precise = (value: number, digits: number) => Number(value.toPrecision(digits));

/** One digit after the point below 10, none above: an SNR, a blur in pixels. */
export const few = (value: number) => fixed(value, Math.abs(value) < 10 ? 1 : 0);

export const ev = (value: number) => `EV ${fixed(value, 1)}`;

/** A distance in stops, without its direction: 0.3 stop, 1.4 stops. */
export function stops(value: number): string {
  const text = Math.abs(value).toFixed(1);
  return `${text} ${Number(text) > 1 ? "stops" : "stop"}`;
}

export function percent(share: number): string {
  if (share > 0 && share < 0.001) return "under 0.1 %";
  return `${fixed(share * 100, share < 0.1 ? 1 : 0)} %`;
}

export const fileSize = (mb: number) =>
  mb >= 1000 ? `${fixed(mb / 1000, 1)} GB` : `${precise(mb, 3)} MB`;

/** A span as 45 s, 40 min or 3 h 16 min. */
export function duration(seconds: number): string {
  if (seconds < 90) return `${Math.round(seconds)} s`;
  const minutes = Math.round(seconds / 60);
  const [hours, rest] = [Math.floor(minutes / 60), minutes % 60];
  return [hours > 0 && `${hours} h`, (rest > 0 || hours === 0) && `${rest} min`]
    .filter(Boolean)
    .join(" ");
}

/** An exposure time as people say it: 1/250 s, 0.6 s, 1 min 28 s. */
export function exposureTime(seconds: number): string {
  if (seconds === 0) return "0 s";
  const parts = 1 / seconds;
  if (seconds < 0.1) return `1/${precise(parts, 2)} s`;
  if (Math.abs(parts - Math.round(parts)) < 0.01 && seconds < 0.99) {
    return seconds < 0.29 || Math.round(parts) === 3
      ? `1/${Math.round(parts)} s`
      : `${precise(seconds, 2)} s`;
  }
  if (seconds < 10) return `${precise(seconds, 2)} s`;
  const whole = Math.round(seconds);
  if (seconds < 60) return `${whole} s`;
  return `${Math.floor(whole / 60)} min${whole % 60 > 0 ? ` ${whole % 60} s` : ""}`;
}

/** The date of an ISO day as Fri 4 Jun 2027. */
export function dayLabel(isoDay: string): string {
  const day = new Date(`${isoDay.slice(0, 10)}T12:00:00Z`);
  const name = DAYS[day.getUTCDay()] ?? "";
  return `${name} ${day.getUTCDate()} ${MONTHS[day.getUTCMonth()] ?? ""} ${day.getUTCFullYear()}`;
}

/** Local time as 07:45; by hand, since the browser's own formatter takes tens of ms to wake. */
export function clockTime(moment: string | number | Date): string {
  const time = new Date(moment);
  return `${two(time.getHours())}:${two(time.getMinutes())}`;
}

/** Local date and time as Fri 4 Jun 2027, 07:45. */
export function dayAndTime(moment: string | number | Date): string {
  const time = new Date(moment);
  const day = `${time.getFullYear()}-${two(time.getMonth() + 1)}-${two(time.getDate())}`;
  return `${dayLabel(day)}, ${clockTime(time)}`;
}

/** The time on a file, by the clock it was shot by: Fri 4 Jun 2027, 07:45. */
export const stampLabel = (stamp: string) =>
  `${dayLabel(stamp)}${stamp.length >= 16 ? `, ${stamp.slice(11, 16)}` : ""}`;

const two = (value: number) => String(value).padStart(2, "0");

const UNIT = "s|ms|min|h|K|D|m|cm|mm|km|px|MP|MB|GB|mired|stops?|%";
const PARTING = new RegExp(`(\\d) (?=(?:${UNIT})(?![\\w-]))`, "g");

/** A sentence whose numbers stay on one line with their units. */
export function unbroken(sentence: string): string {
  return sentence.replace(PARTING, "$1\u00a0");
}
