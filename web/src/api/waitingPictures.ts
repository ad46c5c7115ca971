/** Pictures that wait on this device until the computer answers again. */

import { useSyncExternalStore } from "react";

import { MOST_WAITING, MOST_WAITING_BYTES } from "../offline/keptHere";
import { ask, type ImportedPicture, isPassing, type OutingView, Refusal, sendFile } from "./client";
import { newMark } from "./marks";
import { type PictureUse, type WaitingPicture, waitingStore, writeWaiting } from "./waitingStore";

export const FULL = `This phone keeps at most ${MOST_WAITING} pictures or ${MOST_WAITING_BYTES / 1e6} MB waiting. This one was not added and stays in your gallery.`;
const NO_STORE = "This browser keeps no pictures for Oxlen. This one stays in your gallery.";
const NO_OUTING = "There is no outing yet. Start one, then add this picture.";

/** What a picture waits for: the sheet, or the outing of one that becomes a sheet. */
export interface WaitsFor {
  use: PictureUse;
  owner: number | null;
  uid: string | null;
}

let shown: readonly WaitingPicture[] = [];
let sending = false;
const listeners = new Set<() => void>();
const heard = new Set<(arrived: WaitingPicture) => void>();

async function look(): Promise<void> {
  shown = await (await waitingStore()).getAll("pictures");
  for (const listener of listeners) listener();
}

/** Keep pictures until they can be sent; a sentence where one could not be. */
export async function keepPictures(
  { use, owner, uid }: WaitsFor,
  files: readonly File[],
): Promise<string | null> {
  try {
    const store = await waitingStore();
    for (const file of files) {
      const all = await store.getAll("pictures");
      const bytes = all.reduce((sum, kept) => sum + kept.file.size, file.size);
      if (all.length >= MOST_WAITING || bytes > MOST_WAITING_BYTES) return FULL;
      const place = Math.max(0, ...all.map((kept) => kept.place)) + 1;
      const name = file.name || "picture";
      // Its bytes, not the file: what a camera app hands over may be gone after a restart.
      const kept = new Blob([await file.arrayBuffer()], { type: file.type });
      const mark = newMark();
      await writeWaiting("pictures", {
        place,
        mark,
        use,
        owner,
        uid,
        name,
        file: kept,
        refused: null,
      });
    }
    await look();
    return null;
  } catch (error) {
    return error instanceof DOMException && error.name === "QuotaExceededError" ? FULL : NO_STORE;
  }
}

/** Delete one that the computer would not take. */
export async function dropPicture(place: number): Promise<void> {
  await writeWaiting("pictures", null, place);
  await look();
}

/** Send what waits, in order, each once; those sent before the computer did not answer. */
export async function sendPictures(): Promise<WaitingPicture[]> {
  if (sending) return [];
  sending = true;
  const sent: WaitingPicture[] = [];
  try {
    await look();
    for (const picture of shown) {
      if (picture.refused !== null) continue;
      try {
        await sendOne(picture);
        await writeWaiting("pictures", null, picture.place);
        sent.push(picture);
        for (const hear of heard) hear(picture);
      } catch (error) {
        if (!(error instanceof Refusal) || isPassing(error)) break;
        await writeWaiting("pictures", { ...picture, refused: error.message });
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

async function sendOne(picture: WaitingPicture): Promise<void> {
  const asked = new URLSearchParams({ name: picture.name, mark: picture.mark });
  if (picture.uid !== null) asked.set("uid", picture.uid);
  const file = new File([picture.file], picture.name, { type: picture.file.type });
  const path = `${await pathOf(picture)}?${asked}`;
  await sendFile<ImportedPicture>(path, file, () => undefined, new AbortController().signal);
}

async function pathOf({ use, owner }: WaitingPicture): Promise<string> {
  if (use === "take") return `/sheets/${owner}/takes`;
  if (use === "reading") return `/sheets/${owner}/picture`;
  if (owner !== null) return `/outings/${owner}/pictures`;
  const [newest] = await ask<OutingView[]>("/outings?most=1&words=");
  if (!newest) throw new Refusal({ detail: NO_OUTING, code: "not-found", status: 404 });
  return `/outings/${newest.id}/pictures`;
}

/** Hear of a waiting picture that has arrived; the function it gives stops that. */
export function onArrived(hear: (arrived: WaitingPicture) => void): () => void {
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
