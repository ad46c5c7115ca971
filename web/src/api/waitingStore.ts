import { type DBSchema, type IDBPDatabase, type IDBPObjectStore, openDB } from "idb";

import type { Begun, SheetBody } from "./client";

/**
 * An edit that has not reached the computer: what the sheet was before it, and what it is to be.
 * Sent again under the same mark it is not done twice.
 */
export interface WaitingEdit {
  /** Names the sheet beyond its number, which another Oxlen at this address may use too. */
  uid: string;
  version: number;
  label: string;
  before: SheetBody;
  body: SheetBody;
  mark: string;
}

/** What becomes of a waiting picture: a take of a sheet, the light of one, or a sheet of its own. */
export type PictureUse = "take" | "reading" | "sheet";

/** A picture that has not reached the computer. */
export interface WaitingPicture {
  /** In the order they were chosen. */
  place: number;
  mark: string;
  use: PictureUse;
  /** The sheet it is for; of one that becomes a sheet the outing, null for the newest. */
  owner: number | null;
  /** Names the owner beyond its number. */
  uid: string | null;
  name: string;
  file: Blob;
  /** Why the computer would not take it; it is kept until it is deleted here. */
  refused: string | null;
}

/** A sheet begun by questions that has not reached the computer. */
export interface WaitingSheet {
  /** In the order they were begun. */
  place: number;
  mark: string;
  /** The outing it is for; null for the newest. */
  outing: string | null;
  name: string;
  begun: Begun;
  refused: string | null;
}

interface Stored extends DBSchema {
  sheets: { key: number; value: WaitingSheet };
  edits: { key: number; value: WaitingEdit };
  pictures: { key: number; value: WaitingPicture };
}

type Name = "edits" | "pictures" | "sheets";

let database: Promise<IDBPDatabase<Stored>> | null = null;

/** What waits on this device; it outlives the page and the browser. */
export function waitingStore(): Promise<IDBPDatabase<Stored>> {
  database ??= openDB<Stored>("oxlen-waiting", 3, {
    upgrade: (store, before, _now, change) => {
      store.createObjectStore("sheets", { keyPath: "place" });
      if (before === 1) return void nameUses(change.objectStore("pictures"));
      if (before > 1) return;
      store.createObjectStore("pictures", { keyPath: "place" });
      store.createObjectStore("edits");
    },
  });
  return database;
}

/** Write to the store and wait until it is on the disk: the phone may be gone the next moment. */
export async function writeWaiting<K extends Name>(
  name: K,
  value: Stored[K]["value"] | null,
  key?: number,
): Promise<void> {
  const store = await waitingStore();
  const change = store.transaction(name, "readwrite", { durability: "strict" });
  if (value !== null) void change.store.put(value, key);
  else if (key !== undefined) void change.store.delete(key);
  await change.done;
}

/** The first version kept takes only, each with the number of its sheet. */
async function nameUses(
  pictures: IDBPObjectStore<Stored, Name[], "pictures", "versionchange">,
): Promise<void> {
  for (const old of (await pictures.getAll()) as (WaitingPicture & { sheet: number })[])
    await pictures.put({ ...old, use: "take", owner: old.sheet });
}
