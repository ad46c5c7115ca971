/** A focus ladder through the live camera: stepped, measured and narrowed, without files kept. */

import { ask, type LadderFound, type PatchDetail, sendFile } from "../../api/client";
import type { Camera } from "../../phone/camera/camera";
import { ladderPeak } from "../kit/queries";
import type { KnownCamera } from "./queries";

const STEPS = 9;
const FRAME_PX = 960;
const PATCH_R = 0.08;

export interface Aim {
  x: number;
  y: number;
}

/** Where the patch is sharpest, in the camera's own dioptres: all of its reach, then around the peak. */
export async function findFocus(
  camera: Camera,
  aim: Aim,
  onStep: (step: number, of: number) => void,
): Promise<LadderFound> {
  const dial = camera.can.focus_dioptres;
  if (!dial) throw new Error("The focus cannot be set.");
  const rungs = new Map<number, PatchDetail["scales"]>();
  const climb = async (low: number, high: number, before: number) => {
    for (let k = 0; k < STEPS; k += 1) {
      onStep(before + k + 1, 2 * STEPS);
      const wanted = low + ((high - low) * k) / (STEPS - 1);
      await camera.set({ shutter_s: null, iso: null, white_k: null, focus_dioptres: wanted });
      // What was really set counts, not what was asked for.
      const set = camera.settings().focus_dioptres ?? wanted;
      if (!rungs.has(set)) rungs.set(set, await detailOf(await camera.frame(FRAME_PX), aim));
    }
  };
  const peak = () =>
    ladderPeak(
      [...rungs].map(([value, scales]) => ({ value, scales })),
      [dial.low, dial.high],
    );
  await climb(dial.low, dial.high, 0);
  const coarse = await peak();
  if (coarse.value === null) return coarse;
  const step = (dial.high - dial.low) / (STEPS - 1);
  await climb(
    Math.max(dial.low, coarse.value - step),
    Math.min(dial.high, coarse.value + step),
    STEPS,
  );
  const fine = await peak();
  await camera.set({ shutter_s: null, iso: null, white_k: null, focus_dioptres: fine.value });
  return fine;
}

/** Keep what the camera was set to where something at a distance (null: infinity) was sharp. */
export const keepFocus = (key: string, distance_m: number | null, set_dioptres: number) =>
  ask<KnownCamera>(`/cameras/${key}/focus-points`, {
    method: "POST",
    body: { distance_m, set_dioptres },
  });

async function detailOf(frame: Blob, { x, y }: Aim): Promise<PatchDetail["scales"]> {
  const asked = new URLSearchParams({
    name: "focus.jpg",
    x: String(x),
    y: String(y),
    r: String(PATCH_R),
  });
  const file = new File([frame], "focus.jpg", { type: "image/jpeg" });
  const none = new AbortController().signal;
  const found = await sendFile<PatchDetail>(`/ladder/patch?${asked}`, file, () => undefined, none);
  return found.scales;
}
