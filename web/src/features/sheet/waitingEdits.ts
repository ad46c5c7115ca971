import { type WaitingEdit, waitingStore, writeWaiting } from "../../api/waitingStore";

/** Keep a sheet's waiting edit over a reload or the end of the app; null once it was sent. */
export function keepWaiting(id: number, edit: WaitingEdit | null): void {
  // Where nothing can be stored the edit still waits in the page itself.
  writeWaiting("edits", edit, id).catch(() => undefined);
}

/** The edit of a sheet that waits here, if any. */
export async function keptWaiting(id: number): Promise<WaitingEdit | undefined> {
  try {
    return await (await waitingStore()).get("edits", id);
  } catch {
    return undefined;
  }
}
