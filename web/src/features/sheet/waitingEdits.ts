import type { SheetBody } from "../../api/client";

/** An edit that has not reached the computer, and the version of the sheet it was made from. */
interface Waiting {
  version: number;
  label: string;
  body: SheetBody;
}

const keyOf = (id: number) => `oxlen-waiting-${id}`;

/** Keep a sheet's waiting edit over a reload or the end of the app; null once it was sent. */
export function keepWaiting(id: number, edit: Waiting | null): void {
  try {
    if (edit) localStorage.setItem(keyOf(id), JSON.stringify(edit));
    else localStorage.removeItem(keyOf(id));
  } catch {
    // A full or locked store: the edit still waits in the page itself.
  }
}

/** The edit of a sheet that waits here, if any. */
export function keptWaiting(id: number): Waiting | null {
  const text = localStorage.getItem(keyOf(id));
  return text === null ? null : (JSON.parse(text) as Waiting);
}
