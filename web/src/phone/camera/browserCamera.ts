import { type Camera, type LiveSettings, nameNow } from "./camera";
import {
  autoConstraints,
  canOf,
  constraintsFor,
  settingsOf,
  type TrackCan,
  type TrackConstraint,
} from "./units";

const QUALITY = 0.8;
const PHOTO_QUALITY = 0.95;
/** A camera needs a moment before its settings tell what was set. */
const SETTLES_MS = 250;

interface PhotoTaker {
  takePhoto: () => Promise<Blob>;
}

declare global {
  interface Window {
    ImageCapture?: new (track: MediaStreamTrack) => PhotoTaker;
  }
}

/** The phone's own camera, the one that looks away from the face. Rejects as getUserMedia does. */
export async function browserCamera(): Promise<Camera> {
  const stream = await navigator.mediaDevices.getUserMedia({
    video: { facingMode: { ideal: "environment" }, width: { ideal: 1920 } },
    audio: false,
  });
  const track = stream.getVideoTracks()[0];
  if (!track) throw new DOMException("no video", "NotFoundError");
  const video = document.createElement("video");
  video.srcObject = stream;
  video.muted = true;
  video.playsInline = true;
  await video.play();
  const told: TrackCan = "getCapabilities" in track ? (track.getCapabilities() as TrackCan) : {};
  const taker = "ImageCapture" in window ? new window.ImageCapture(track) : null;
  const can = canOf(told, taker !== null);
  let isStopped = false;
  const apply = async (constraints: TrackConstraint[]) => {
    for (const constraint of constraints) {
      // One by one: a camera that refuses one setting still takes the others.
      await track
        .applyConstraints({ advanced: [constraint as MediaTrackConstraintSet] })
        .catch(() => undefined);
    }
    await new Promise((resolve) => window.setTimeout(resolve, SETTLES_MS));
  };
  return {
    note: "",
    can,
    stream,
    settings: () => settingsOf(track.getSettings()),
    set: (wanted: LiveSettings) => apply(constraintsFor(wanted, can)),
    onAuto: () => apply(autoConstraints(told)),
    pointAt: async (x, y) => {
      if (!can.points) return;
      const point = { pointsOfInterest: [{ x, y }] } as unknown as MediaTrackConstraintSet;
      await track.applyConstraints({ advanced: [point] }).catch(() => undefined);
    },
    frame: (sidePx) => drawn(video, sidePx, QUALITY),
    photo: async () => {
      const blob = await (taker?.takePhoto() ?? Promise.reject(new Error("no photos"))).catch(() =>
        drawn(video, Infinity, PHOTO_QUALITY),
      );
      return new File([blob], nameNow(), { type: "image/jpeg" });
    },
    stop: () => {
      if (isStopped) return;
      isStopped = true;
      const off = () => {
        for (const each of stream.getTracks()) each.stop();
        video.srcObject = null;
      };
      // On auto first, for the next app; not waited for where the page goes.
      void Promise.race([
        apply(autoConstraints(told)),
        new Promise((resolve) => window.setTimeout(resolve, 2 * SETTLES_MS)),
      ]).then(off, off);
    },
    onEnded: (hear) => track.addEventListener("ended", () => !isStopped && hear()),
  };
}

/** What a video or picture shows, as a JPEG whose longer side is at most so many pixels. */
async function drawn(video: HTMLVideoElement, sidePx: number, quality: number): Promise<Blob> {
  const scale = Math.min(1, sidePx / Math.max(video.videoWidth, video.videoHeight, 1));
  const canvas = document.createElement("canvas");
  canvas.width = Math.max(1, Math.round(video.videoWidth * scale));
  canvas.height = Math.max(1, Math.round(video.videoHeight * scale));
  const context = canvas.getContext("2d");
  if (!context) throw new Error("This browser cannot draw.");
  context.imageSmoothingQuality = "high";
  context.drawImage(video, 0, 0, canvas.width, canvas.height);
  return new Promise((resolve, reject) =>
    canvas.toBlob(
      (blob) => (blob ? resolve(blob) : reject(new Error("The frame was not made."))),
      "image/jpeg",
      quality,
    ),
  );
}
