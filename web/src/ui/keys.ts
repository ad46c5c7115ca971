const KEPT = "oxlen-single-keys";
const WRITING = /^(INPUT|TEXTAREA|SELECT)$/;

/** Whether keys without Ctrl or Cmd do something on this device: with speech input they are in the way. */
export const singleKeys = {
  get: () => localStorage.getItem(KEPT) !== "off",
  set: (on: boolean) => {
    localStorage.setItem(KEPT, on ? "on" : "off");
  },
};

/** Whether something is being written at the moment. */
export const isWriting = ({ target }: KeyboardEvent) =>
  target instanceof HTMLElement && (WRITING.test(target.tagName) || target.isContentEditable);

/** Whether a key was pressed by itself, and may do something by itself. */
export const isSingleKey = (event: KeyboardEvent) =>
  !isWriting(event) && !event.ctrlKey && !event.metaKey && !event.altKey && singleKeys.get();

/** Ctrl Z or Cmd Z, with Shift the other way; while writing they belong to the field. */
export function undoKey(event: KeyboardEvent): "undo" | "redo" | null {
  if (isWriting(event) || event.altKey || !(event.ctrlKey || event.metaKey)) return null;
  if (event.key.toLowerCase() === "z") return event.shiftKey ? "redo" : "undo";
  return event.key.toLowerCase() === "y" ? "redo" : null;
}
