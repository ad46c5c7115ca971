/** The state of a sheet's edits. Pure: the hook around it asks, waits and writes to the disk. */

import type { MergedEdits, SheetBody } from "../../api/client";
import type { WaitingEdit } from "../../api/waitingStore";

/** Two edits of the sheet that do not agree: mine, and what the computer holds by now. */
export interface EditClash {
  edit: WaitingEdit;
  found: MergedEdits;
}

export interface Editing {
  /** The edit to be sent next; the latest includes those that gathered meanwhile. */
  waiting: WaitingEdit | null;
  /** What this device keeps over a reload: also what waits to be decided. */
  stored: WaitingEdit | null;
  sending: boolean;
  /** Why edits wait on this device. */
  waits: string | null;
  clash: EditClash | null;
  /** Not sent by a closing page: it would only wait again, or meet the same again. */
  held: boolean;
  /** Others changed the sheet since it was fetched. */
  behind: boolean;
}

export type EditEvent =
  | { type: "edited" | "merged"; edit: WaitingEdit }
  | { type: "restored"; edit: WaitingEdit }
  | { type: "began" | "rested" | "refused" | "unpaired" | "decided" }
  | { type: "changed elsewhere" | "looked again" }
  | { type: "kept"; edit: WaitingEdit; version: number; body: SheetBody }
  | { type: "kept already" }
  | { type: "delayed"; why: string }
  | { type: "clashed"; clash: EditClash }
  | { type: "postponed"; why: string };

export const AT_REST: Editing = {
  waiting: null,
  stored: null,
  sending: false,
  waits: null,
  clash: null,
  held: false,
  behind: false,
};

const NOTHING = { waiting: null, stored: null };

/** The state after an event. */
export function editing(state: Editing, event: EditEvent): Editing {
  switch (event.type) {
    case "edited":
    case "merged":
      return { ...state, waiting: event.edit, stored: event.edit };
    case "restored":
      // An edit made meanwhile is newer than the one that was kept over the reload.
      return state.waiting ? state : { ...state, waiting: event.edit, stored: event.edit };
    case "began":
      return { ...state, sending: true };
    case "rested":
      return { ...state, sending: false };
    case "kept":
      return { ...state, held: false, waits: null, ...afterKept(state, event) };
    case "kept already":
      return { ...state, ...NOTHING };
    case "delayed":
      return { ...state, held: true, waits: event.why };
    case "refused":
      return { ...state, ...NOTHING, waits: null };
    case "unpaired":
      // It stays on this device, should it be paired again.
      return { ...state, waiting: null, waits: null };
    case "clashed":
      // It stays on the disk until it is decided: a reload asks again.
      return { ...state, waiting: null, clash: event.clash };
    case "decided":
      return { ...state, clash: null };
    case "postponed":
      if (!state.clash) return state;
      return { ...state, waiting: state.clash.edit, clash: null, held: true, waits: event.why };
    case "changed elsewhere":
      return { ...state, behind: true };
    case "looked again":
      return { ...state, behind: false };
  }
}

/** What is left to send once an edit was kept: a newer one goes on from that version. */
function afterKept(state: Editing, kept: { edit: WaitingEdit; version: number; body: SheetBody }) {
  if (!state.waiting || state.waiting === kept.edit) return NOTHING;
  const next = { ...state.waiting, version: kept.version, before: kept.body };
  return { waiting: next, stored: next };
}
