import { laterDialog } from "./later";
import type { DialogProps } from "./DialogParts";

/** A dialog with its title and a way out. */
export const Dialog = laterDialog<DialogProps>(() =>
  import("./DialogParts").then((all) => all.DialogParts),
);
