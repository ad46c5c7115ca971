/** Pictures shot for sheets that wait on this device until the computer answers again. */

import { useSyncExternalStore } from "react";

import { isPassing, Refusal, sendFile, type Take } from "../../../api/client";
import { newMark } from "../../../api/marks";
import { MOST_WAITING, MOST_WAITING_BYTES } from "../../../offline/keptHere";
import { type WaitingPicture, waitingStore, writeWaiting } from "../../../api/waitingStore";

export const FULL = `This phone keeps at most ${MOST_WAITING} pictures or ${MOST_WAITING_BYTES / 1e6} MB waiting. This one was not added and stays in your gallery.`;
const NO_STORE = "This browser keeps no pictures for Oxlen. This one stays in your gallery.";

let shown: readonly WaitingPicture[] = [];
let sending = false;
const listeners = new Set<() => void>();
const heard = new Set<(sheet: number) => void>();

async function look(): Promise<void> {
  shown = await (await waitingStore()).getAll("pictures");
  for (const listener of listeners) listener();
}

/** Keep pictures for a sheet until they can be sent; a sentence where one could not be. */
export async function keepPictures(
  { id: sheet, uid }: { id: number; uid: string },
  files: readonly File[],
): Promise<string | null> {
  try {
    const store = await waitingStore();
    for (const file of files) {
      const all = await store.getAll("pictures");
      const bytes = all.reduce((sum, one) => sum + one.file.size, file.size);
      if (all.length >= MOST_WAITING || bytes > MOST_WAITING_BYTES) return FULL;
      const place = Math.max(0, ...all.map((one) => one.place)) + 1;
      const name = file.name || "picture";
      // Its bytes, not the file: what a camera app hands over may be gone after a restart.
      const kept = new Blob([await file.arrayBuffer()], { type: file.type });
      const one = { place, mark: newMark(), sheet, uid, name, file: kept, refused: null };
      await writeWaiting("pictures", one);
    }
    await look();
    return null;
  } catch (error) {
    return error instanceof DOMException && error.name === "QuotaExceededError" ? FULL : NO_STORE;
  }
}

/** Let one go that the computer would not take. */
export async function dropPicture(place: number): Promise<void> {
  await writeWaiting("pictures", null, place);
  await look();
}

/** Send what waits, in order, each once; how many were sent before the computer did not answer. */
export async function sendPictures(): Promise<number> {
  if (sending) return 0;
  sending = true;
  let sent = 0;
  try {
    await look();
    for (const one of shown) {
      if (one.refused !== null) continue;
      try {
        await sendOne(one);
        await writeWaiting("pictures", null, one.place);
        sent += 1;
        for (const hear of heard) hear(one.sheet);
      } catch (error) {
        if (!(error instanceof Refusal) || isPassing(error)) break;
        await writeWaiting("pictures", { ...one, refused: error.message });
      }
      await look();
    }
  } catch {
    // No store here: nothing waits.
  } finally {
    sending = false;
  }
  return sent;
}

function sendOne(one: WaitingPicture): Promise<Take[]> {
  const asked = new URLSearchParams({ name: one.name, mark: one.mark, uid: one.uid });
  const file = new File([one.file], one.name, { type: one.file.type });
  const path = `/sheets/${one.sheet}/takes?${asked}`;
  return sendFile<Take[]>(path, file, () => undefined, new AbortController().signal);
}

/** Hear of a sheet for which a waiting picture has arrived; the function it gives stops that. */
export function onArrived(hear: (sheet: number) => void): () => void {
  heard.add(hear);
  return () => heard.delete(hear);
}

/** What waits on this device. */
export function useWaitingPictures(): readonly WaitingPicture[] {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => shown,
  );
}
