/** An Exif segment with the settings in force: Oxlen's own record, named as such. */

export interface ShotWith {
  shutter_s: number;
  iso: number;
  f_number: number;
  make: string;
  model: string;
}

const SOFTWARE = "Oxlen live: settings as the browser reported them";
const [ASCII, SHORT, LONG, RATIONAL] = [2, 3, 4, 5] as const;
const TAG = {
  make: 0x010f,
  model: 0x0110,
  software: 0x0131,
  exif: 0x8769,
  exposureTime: 0x829a,
  fNumber: 0x829d,
  iso: 0x8827,
  taken: 0x9003,
} as const;

interface Entry {
  tag: number;
  type: number;
  count: number;
  bytes: Uint8Array;
}

/** The Exif segment of a JPEG, its marker and length included, byte by byte. */
export function segmentOf(shot: ShotWith, taken: string): number[] {
  const first = [
    text(TAG.make, shot.make),
    text(TAG.model, shot.model),
    text(TAG.software, SOFTWARE),
  ];
  const inner = [
    rational(TAG.exposureTime, shot.shutter_s),
    rational(TAG.fNumber, shot.f_number),
    short(TAG.iso, Math.round(shot.iso)),
    text(TAG.taken, taken),
  ];
  const header = 8;
  const innerAt = header + sizeOf(first.length + 1, first);
  const pointer: Entry = { tag: TAG.exif, type: LONG, count: 1, bytes: number(innerAt, 4) };
  const tiff = new Uint8Array([
    ...[0x49, 0x49, 42, 0, header, 0, 0, 0],
    ...directory([...first, pointer], header),
    ...directory(inner, innerAt),
  ]);
  const length = 2 + 6 + tiff.length;
  return [...[0xff, 0xe1, length >> 8, length & 0xff], ...[0x45, 0x78, 0x69, 0x66, 0, 0], ...tiff];
}

/** A directory of tags, with the values that do not fit into it behind it. */
function directory(entries: Entry[], at: number): number[] {
  const values: number[] = [];
  const behind = at + 2 + 12 * entries.length + 4;
  const rows = entries.flatMap(({ tag, type, count, bytes }) => {
    const fits = bytes.length <= 4;
    const place = fits
      ? [...bytes, 0, 0, 0, 0].slice(0, 4)
      : [...number(behind + values.length, 4)];
    if (!fits) values.push(...bytes, ...(bytes.length % 2 ? [0] : []));
    return [...number(tag, 2), ...number(type, 2), ...number(count, 4), ...place];
  });
  return [...number(entries.length, 2), ...rows, 0, 0, 0, 0, ...values];
}

const sizeOf = (count: number, entries: Entry[]) =>
  2 + 12 * count + 4 + entries.reduce((sum, { bytes }) => sum + paddedBehind(bytes.length), 0);
const paddedBehind = (length: number) => (length <= 4 ? 0 : length + (length % 2));

const number = (value: number, bytes: number) =>
  Uint8Array.from({ length: bytes }, (_, k) => (value >>> (8 * k)) & 0xff);

const short = (tag: number, value: number): Entry => ({
  tag,
  type: SHORT,
  count: 1,
  bytes: number(Math.min(value, 65535), 2),
});

function text(tag: number, words: string): Entry {
  const plain = new TextEncoder().encode(words.replace(/[^\x20-\x7e]/g, "?"));
  return { tag, type: ASCII, count: plain.length + 1, bytes: new Uint8Array([...plain, 0]) };
}

function rational(tag: number, value: number): Entry {
  const [above, below] =
    value >= 1 ? [Math.round(value * 1e4), 1e4] : [1e4, Math.round(1e4 / value)];
  return {
    tag,
    type: RATIONAL,
    count: 1,
    bytes: new Uint8Array([...number(above, 4), ...number(below, 4)]),
  };
}

/** A time as Exif writes it. */
export function stamp(now: Date): string {
  const two = (part: number) => String(part).padStart(2, "0");
  const day = [now.getFullYear(), two(now.getMonth() + 1), two(now.getDate())].join(":");
  return `${day} ${[now.getHours(), now.getMinutes(), now.getSeconds()].map(two).join(":")}`;
}
