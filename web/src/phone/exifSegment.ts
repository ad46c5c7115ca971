/** The Exif segment of a JPEG, found and corrected. */

const ORIENTATION = 0x0112;

/** The Exif segment of a JPEG's beginning, its marker and length included. */
export function exifOf(head: Uint8Array): Uint8Array<ArrayBuffer> | null {
  if (head[0] !== 0xff || head[1] !== 0xd8) return null;
  let at = 2;
  while (at + 10 < head.length && head[at] === 0xff) {
    const length = ((head[at + 2] ?? 0) << 8) | (head[at + 3] ?? 0);
    const name = String.fromCharCode(...head.slice(at + 4, at + 8));
    if (head[at + 1] === 0xe1 && name === "Exif") {
      return at + 2 + length <= head.length
        ? new Uint8Array(head.slice(at, at + 2 + length))
        : null;
    }
    if (head[at + 1] === 0xda) return null; // pixels begin
    at += 2 + length;
  }
  return null;
}

/** Record in an Exif segment that its picture is upright. */
export function setUpright(segment: Uint8Array): void {
  const tiff = 10;
  const view = new DataView(segment.buffer, segment.byteOffset, segment.byteLength);
  const little = view.getUint16(tiff) === 0x4949;
  const first = tiff + view.getUint32(tiff + 4, little);
  const entries = view.getUint16(first, little);
  for (let k = 0; k < entries; k++) {
    const entry = first + 2 + 12 * k;
    if (view.getUint16(entry, little) === ORIENTATION) view.setUint16(entry + 8, 1, little);
  }
}
