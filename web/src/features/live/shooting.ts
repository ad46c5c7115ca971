/** From the live slip to a checked take: the light kept, the camera dialled, the photo sent. */

import {
  ask,
  sendFile,
  type SheetBody,
  type SheetView,
  type SpotBody,
  type Take,
  type TakeChecked,
} from "../../api/client";
import { newMark } from "../../api/marks";
import { keepPictures, sendPictures } from "../../api/waitingPictures";
import type { Camera, LiveSettings } from "../../phone/camera/camera";
import { withSettings } from "../../phone/camera/exif";
import { putSheet } from "../sheet/queries";
import type { LiveView } from "./queries";

export const MOST_ROUNDS = 3;

/** A photo with its settings written into it, where the browser tells them. */
export async function photoOf(camera: Camera, view: LiveView | null): Promise<File> {
  const file = await camera.photo();
  const set = camera.settings();
  const dial = view?.dial;
  if (!dial || set.shutter_s == null || set.iso == null) return file;
  const { f_number, make, model } = dial;
  return withSettings(
    file,
    { shutter_s: set.shutter_s, iso: set.iso, f_number, make, model },
    new Date(),
  );
}

/** Keep what the camera sees as the sheet's own picture with its spots: the plan is by it. */
export async function keepLight(
  sheet: SheetView,
  spots: SpotBody[],
  file: File,
): Promise<SheetView> {
  const mark = newMark();
  const asked = new URLSearchParams({ name: file.name, mark });
  const none = new AbortController().signal;
  await sendFile(`/sheets/${sheet.id}/picture?${asked}`, file, () => undefined, none);
  return changed(sheet.id, "light from the camera", (body) => ({
    ...body,
    spots,
    readings: [],
    steps_by_hand: null,
  }));
}

/** Shoot one take and hand it to the queue; the sentence says where it was not kept. */
export async function shoot(sheet: SheetView, file: File): Promise<string | null> {
  const trouble = await keepPictures({ use: "take", owner: sheet.id, uid: sheet.uid }, [file]);
  if (trouble) return trouble;
  await sendPictures();
  return null;
}

/** The newest take of a sheet compared with its plan; null while it has not arrived. */
export async function checkNewest(
  sheet: SheetView,
  known: ReadonlySet<number>,
): Promise<TakeChecked | null> {
  const takes = await takesOf(sheet.id);
  const newest = takes.filter((take) => !known.has(take.id)).at(-1);
  return newest ? ask<TakeChecked>(`/takes/${newest.id}/check`) : null;
}

export const takesOf = (sheet: number) => ask<Take[]>(`/sheets/${sheet}/takes`);

/** Take the correction into the sheet, and what to dial for it. */
export async function correct(sheet: SheetView, found: TakeChecked): Promise<LiveSettings> {
  await changed(sheet.id, "correction from a take", (body) => ({ ...body, ...found.patch }));
  const { iso, shutter_s, white_k } = found.next;
  return { iso, shutter_s, white_k, focus_dioptres: null };
}

async function changed(
  id: number,
  label: string,
  change: (body: SheetBody) => SheetBody,
): Promise<SheetView> {
  const now = await ask<SheetView>(`/sheets/${id}`);
  const edit = { uid: now.uid, version: now.version, label, before: now.body };
  return putSheet(id, { ...edit, body: change(now.body), mark: newMark() });
}
