/** A small copy of a JPEG that keeps what its file tells: enough to read the light by. */

const LONG_SIDE_PX = 1600;
const QUALITY = 0.8;
const WORTH_BYTES = 400_000;
const HEAD_BYTES = 262_144;
const ORIENTATION = 0x0112;

/** A small copy; null where the file is small already, is no JPEG with Exif, or cannot be drawn. */
export async function smallCopy(file: File): Promise<File | null> {
  if (file.size < WORTH_BYTES) return null;
  const exif = exifOf(new Uint8Array(await file.slice(0, HEAD_BYTES).arrayBuffer()));
  if (!exif) return null;
  try {
    const pixels = await drawn(file);
    // The copy is drawn upright, whichever way the phone was held.
    setUpright(exif);
    return new File([pixels.slice(0, 2), exif, pixels.slice(2)], file.name, {
      type: "image/jpeg",
      lastModified: file.lastModified,
    });
  } catch {
    return null;
  }
}

async function drawn(file: File): Promise<Blob> {
  const whole = await createImageBitmap(file);
  const scale = Math.min(1, LONG_SIDE_PX / Math.max(whole.width, whole.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.round(whole.width * scale);
  canvas.height = Math.round(whole.height * scale);
  const context = canvas.getContext("2d");
  if (!context) throw new Error("This browser cannot draw.");
  context.imageSmoothingQuality = "high";
  context.drawImage(whole, 0, 0, canvas.width, canvas.height);
  whole.close();
  return new Promise((resolve, reject) =>
    canvas.toBlob(
      (blob) => (blob ? resolve(blob) : reject(new Error("The small copy was not made."))),
      "image/jpeg",
      QUALITY,
    ),
  );
}

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
