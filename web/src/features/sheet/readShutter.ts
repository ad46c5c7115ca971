/** A shutter as people write it, "1/125" or "0.5", in seconds; NaN when it is neither. */
export function readShutter(text: string): number {
  const [top, bottom, ...more] = text.replace(/s$/, "").trim().split("/");
  if (more.length > 0 || !top?.trim()) return NaN;
  return bottom === undefined ? Number(top) : Number(top) / Number(bottom);
}
