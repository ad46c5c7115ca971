/** Sheets begun by questions that wait on this device until the computer answers again. */

import { ask, type Begun, isPassing, Refusal, type SheetView } from "./client";
import { newMark } from "./marks";
import { waitingStore, writeWaiting } from "./waitingStore";

/** Start a sheet from a situation, in an outing or in the newest there is; once under a mark. */
export const beginSheet = (outing: string | null, begun: Begun, mark: string) =>
  ask<SheetView>(
    `${outing ? `/outings/${outing}` : ""}/situations?${new URLSearchParams({ mark })}`,
    { method: "POST", body: begun },
  );

/** Keep what was begun until it can be sent. */
export async function keepBegun(outing: string | null, begun: Begun, name: string): Promise<void> {
  const places = await (await waitingStore()).getAllKeys("sheets");
  const place = Math.max(0, ...places) + 1;
  const kept = { place, mark: newMark(), outing, name, begun, refused: null };
  await writeWaiting("sheets", kept);
}

/** Send what was begun, in order, each once; how many were sent before no answer came. */
export async function sendBegun(): Promise<number> {
  let sent = 0;
  for (const sheet of await (await waitingStore()).getAll("sheets")) {
    if (sheet.refused !== null) continue;
    try {
      await beginSheet(sheet.outing, sheet.begun, sheet.mark);
      await writeWaiting("sheets", null, sheet.place);
      sent += 1;
    } catch (error) {
      if (!(error instanceof Refusal) || isPassing(error)) return sent;
      await writeWaiting("sheets", { ...sheet, refused: error.message });
    }
  }
  return sent;
}
