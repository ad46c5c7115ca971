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
  view: LiveView | null,
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
    light_colour: withPatch(body.light_colour, view),
  }));
}

/** A patch measured in the live picture, where the sheet has none of its own. */
function withPatch(colour: SheetBody["light_colour"], view: LiveView | null) {
  const white = view?.whites.find((each) => each.cct_k != null);
  if (white?.cct_k == null || colour.patch) return colour;
  const { cct_k, duv, plus_minus_mired } = white;
  return { ...colour, patch: { cct_k, duv, plus_minus_mired, measured_in: "processed" as const } };
}

/** Shoot a plan's exposures one after another; the sentence says where one was not kept. */
export async function shootPlanned(
  sheet: SheetView,
  camera: Camera,
  view: LiveView,
  onShot: (shot: number, of: number) => void,
): Promise<string | null> {
  const of = view.planned.reduce((sum, exposure) => sum + exposure.frames, 0);
  let shot = 0;
  for (const { iso, shutter_s, frames, every_s } of view.planned) {
    await camera.set({ iso, shutter_s, white_k: null, focus_dioptres: null });
    for (let frame = 0; frame < frames; frame += 1) {
      const begun = Date.now();
      onShot((shot += 1), of);
      const refused = await shoot(sheet, await photoOf(camera, view));
      if (refused) return refused;
      const left = 1000 * every_s - (Date.now() - begun);
      if (left > 0 && shot < of) await new Promise((resolve) => window.setTimeout(resolve, left));
    }
  }
  return null;
}

/** Shoot one take and hand it to the queue; the sentence says where it was not kept. */
export async function shoot(sheet: SheetView, file: File): Promise<string | null> {
  const trouble = await keepPictures({ use: "take", owner: sheet.id, uid: sheet.uid }, [file]);
  if (trouble) return trouble;
  await sendPictures();
  return null;
}

export interface Checked {
  take: Take;
  check: TakeChecked;
}

/** The newest take of a sheet compared with its plan; null while it has not arrived. */
export async function checkNewest(
  sheet: SheetView,
  known: ReadonlySet<number>,
): Promise<Checked | null> {
  const takes = await takesOf(sheet.id);
  const take = takes.filter((each) => !known.has(each.id)).at(-1);
  return take ? { take, check: await ask<TakeChecked>(`/takes/${take.id}/check`) } : null;
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
