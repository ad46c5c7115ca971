/** A camera the page looks through: one place to ask, whoever answers. Oxlen's own units. */

import type { components } from "../../api/schema";

type Schemas = components["schemas"];
export type LiveCan = Schemas["LiveCameraFile"];
export type LiveSettings = Schemas["LiveSettingsFile"];

export interface Camera {
  /** Shown beside its picture; empty for the phone's own camera. */
  note: string;
  can: LiveCan;
  /** What a video element shows; null where frames come as pictures. */
  stream: MediaStream | null;
  /** Settings in force; null for what the browser does not tell. */
  settings: () => LiveSettings;
  /** Set what can be set; what is refused stays as it was. */
  set: (wanted: LiveSettings) => Promise<void>;
  /** Give every setting back to the phone. */
  onAuto: () => Promise<void>;
  /** Focus and meter at a place of the picture, in shares of its sides. */
  pointAt: (x: number, y: number) => Promise<void>;
  /** What is seen now as a small JPEG, its longer side at most so many pixels. */
  frame: (sidePx: number) => Promise<Blob>;
  /** A picture by the best means there is. */
  photo: () => Promise<File>;
  /** Switch off; nothing is given afterwards. */
  stop: () => void;
  /** Hear that it was taken away. */
  onEnded: (hear: () => void) => void;
}

export const NOTHING_KNOWN: LiveSettings = {
  shutter_s: null,
  iso: null,
  white_k: null,
  focus_dioptres: null,
};

/** Why a camera could not be started, in words with what to do. */
export function troubleOf(error: unknown): string {
  const name = error instanceof DOMException ? error.name : "";
  if (name === "NotAllowedError")
    return "The browser may not use the camera. Allow it in the site’s settings, then try again.";
  if (name === "NotFoundError" || name === "OverconstrainedError")
    return "No camera was found here. Add a picture instead.";
  if (name === "NotReadableError" || name === "AbortError")
    return "Another app uses the camera. Close it, then try again.";
  if (!window.isSecureContext)
    return "The camera needs https. Pair the phone with https, then try again.";
  return "The camera could not be started. Add a picture instead.";
}

/** A name for a picture taken now, different for each take. */
export function nameNow(): string {
  const stamp = new Date().toISOString().replace(/[-:]/g, "").replace("T", "-").slice(0, 15);
  return `live-${stamp}.jpg`;
}
