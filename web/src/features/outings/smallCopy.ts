import { exifOf, setUpright } from "../../phone/exifSegment";

/** A small copy of a JPEG that keeps what its file tells: enough to read the light by. */

const LONG_SIDE_PX = 1600;
const QUALITY = 0.8;
const WORTH_BYTES = 400_000;
const HEAD_BYTES = 262_144;

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
