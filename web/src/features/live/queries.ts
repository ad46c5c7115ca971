import { queryOptions } from "@tanstack/react-query";

import { ask, sendFile } from "../../api/client";
import type { components } from "../../api/schema";
import type { LiveCan, LiveSettings } from "../../phone/camera/camera";

type Schemas = components["schemas"];
export type LiveView = Schemas["LiveView"];
export type LiveTone = Schemas["LiveTone"];
export type LiveAsk = Schemas["LiveAsk"];
export type Dialled = Schemas["DialledView"];
export type KnownCamera = Schemas["CameraView"];
export type KnownLight = Schemas["KnownLightFile"];

const KEY = "oxlen-live-camera";

/** The name of this phone's camera in this browser, kept here. */
export function cameraKey(): string {
  const kept = localStorage.getItem(KEY);
  if (kept) return kept;
  const made = `c-${crypto.getRandomValues(new Uint32Array(2)).join("-")}`.slice(0, 40);
  localStorage.setItem(KEY, made);
  return made;
}

/** Read one frame; null where a later one has come meanwhile. */
export async function readFrame(sheet: number, asked: LiveAsk): Promise<LiveView | null> {
  return (
    (await ask<LiveView | undefined>(`/live/sheets/${sheet}`, { method: "POST", body: asked })) ??
    null
  );
}

/** What *Dial it* set, against the slip. */
export const compareDialled = (
  wanted: LiveSettings,
  got: LiveSettings,
  camera: { can: LiveCan; key: string },
) =>
  ask<Dialled>("/live/dialled", {
    method: "POST",
    body: { wanted, got, camera: camera.can, key: camera.key },
  });

/** The mean light of the view from a picture of the camera app, which is not kept. */
export function lightOfPicture(sheet: number, file: File): Promise<KnownLight> {
  const none = new AbortController().signal;
  const path = `/live/sheets/${sheet}/known?${new URLSearchParams({ name: file.name })}`;
  return sendFile<KnownLight>(path, file, () => undefined, none);
}

/** Keep what this camera can do here. */
export const seeCamera = (key: string, name: string, phone: string, can: LiveCan) =>
  ask<KnownCamera>(`/cameras/${key}`, { method: "PUT", body: { name, phone, can } });

export const camerasQuery = queryOptions({
  queryKey: ["cameras"],
  queryFn: ({ signal }) => ask<KnownCamera[]>("/cameras", { signal }),
});

/** A blob's bytes in base 64. */
export async function inBase64(blob: Blob): Promise<string> {
  const bytes = new Uint8Array(await blob.arrayBuffer());
  let text = "";
  for (let at = 0; at < bytes.length; at += 8192)
    text += String.fromCharCode(...bytes.subarray(at, at + 8192));
  return btoa(text);
}
