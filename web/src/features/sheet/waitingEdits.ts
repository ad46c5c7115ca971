import type { SheetBody } from "../../api/client";

/**
 * An edit that has not reached the computer: what the sheet was before it, and what it is to be.
 * Sent again under the same mark it is not done twice.
 */
export interface WaitingEdit {
  version: number;
  label: string;
  before: SheetBody;
  body: SheetBody;
  mark: string;
}

const keyOf = (id: number) => `oxlen-waiting-${id}`;

/** Keep a sheet's waiting edit over a reload or the end of the app; null once it was sent. */
export function keepWaiting(id: number, edit: WaitingEdit | null): void {
  try {
    if (edit) localStorage.setItem(keyOf(id), JSON.stringify(edit));
    else localStorage.removeItem(keyOf(id));
  } catch {
    // A full or locked store: the edit still waits in the page itself.
  }
}

/** The edit of a sheet that waits here, if any. */
export function keptWaiting(id: number): WaitingEdit | null {
  const text = localStorage.getItem(keyOf(id));
  if (text === null) return null;
  const kept = JSON.parse(text) as Partial<WaitingEdit>;
  return kept.before && kept.mark ? (kept as WaitingEdit) : null;
}
