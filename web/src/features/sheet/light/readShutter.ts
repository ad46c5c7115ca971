/** A shutter as people write it, of seconds: what `readShutter` reads back. */
export function writtenShutter(seconds: number): string {
  return seconds < 0.29 ? `1/${Math.round(1 / seconds)}` : String(seconds);
}

/** A shutter as people write it, "1/125" or "0.5", in seconds; NaN when it is neither. */
export function readShutter(text: string): number {
  const [top, bottom, ...more] = text.replace(/s$/, "").trim().split("/");
  if (more.length > 0 || !top?.trim()) return NaN;
  return bottom === undefined ? Number(top) : Number(top) / Number(bottom);
}
