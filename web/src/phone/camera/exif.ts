/** Settings in force written into a JPEG that says none. */

import { exifOf } from "../exifSegment";
import { segmentOf, type ShotWith, stamp } from "./exifRecord";

const HEAD_BYTES = 262_144;

/** The picture with its settings; as it is where it has Exif of its own. */
export async function withSettings(file: File, shot: ShotWith, now: Date): Promise<File> {
  const head = new Uint8Array(await file.slice(0, HEAD_BYTES).arrayBuffer());
  if (head[0] !== 0xff || head[1] !== 0xd8 || exifOf(head)) return file;
  const segment = new Uint8Array(segmentOf(shot, stamp(now)));
  return new File([file.slice(0, 2), segment, file.slice(2)], file.name, { type: file.type });
}
