import { type DBSchema, type IDBPDatabase, openDB } from "idb";

import type { SheetBody } from "./client";

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

/** A picture shot for a sheet that has not reached the computer. */
export interface WaitingPicture {
  /** In the order they were chosen. */
  place: number;
  mark: string;
  sheet: number;
  uid: string;
  name: string;
  file: Blob;
  /** Why the computer would not take it; it is kept until it is deleted here. */
  refused: string | null;
}

interface Stored extends DBSchema {
  edits: { key: number; value: WaitingEdit };
  pictures: { key: number; value: WaitingPicture };
}

type Name = "edits" | "pictures";

let database: Promise<IDBPDatabase<Stored>> | null = null;

/** What waits on this device; it outlives the page and the browser. */
export function waitingStore(): Promise<IDBPDatabase<Stored>> {
  database ??= openDB<Stored>("oxlen-waiting", 1, {
    upgrade: (store) => {
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
