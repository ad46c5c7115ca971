import { ask, isPassing, Refusal, type SheetView } from "../../api/client";
import { newMark } from "../../api/marks";
import { type WaitingEdit, waitingStore, writeWaiting } from "../../api/waitingStore";
import { mergeEdits, putSheet } from "./queries";

/** Sheets that are open here: their own page sends what waits for them. */
const open = new Set<number>();

/** Say that a sheet is open here, until the function it gives is called. */
export function noteOpen(sheet: number): () => void {
  open.add(sheet);
  return () => void open.delete(sheet);
}

/**
 * Send edits left by pages that were closed before the computer answered; those that contradict
 * what others changed wait until their sheet is opened. Tells of each sheet that has changed.
 */
export async function sendLeftEdits(onSent: (sheet: number) => void): Promise<void> {
  const store = await waitingStore();
  for (const sheet of await store.getAllKeys("edits")) {
    const edit = open.has(sheet) ? undefined : await store.get("edits", sheet);
    if (!edit) continue;
    const isDone = await sendOne(sheet, edit);
    if (isDone === null) return; // no answer
    if (!isDone || open.has(sheet)) continue;
    await writeWaiting("edits", null, sheet);
    onSent(sheet);
  }
}

/** Whether it is in; null where the computer does not answer or has not paired this device. */
async function sendOne(sheet: number, edit: WaitingEdit): Promise<boolean | null> {
  try {
    const there = await ask<SheetView>(`/sheets/${sheet}`);
    if (there.uid !== edit.uid) return false;
    await putSheet(sheet, edit);
    return true;
  } catch (error) {
    if (!(error instanceof Refusal) || error.problem.code !== "edit-clash") return verdict(error);
  }
  try {
    const { clashes, version, body } = await mergeEdits(sheet, {
      before: edit.before,
      mine: edit.body,
    });
    if (clashes.length > 0) return false;
    await putSheet(sheet, { ...edit, version, body, mark: newMark() });
    return true;
  } catch (error) {
    return verdict(error);
  }
}

function verdict(error: unknown): boolean | null {
  return !(error instanceof Refusal) || isPassing(error) ? null : false;
}
