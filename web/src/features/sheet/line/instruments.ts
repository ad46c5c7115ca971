/** The instruments of the slip's lines. To add one: a file beside this one, and an entry here. */

import type { ComponentType } from "react";

import type { Answer, SheetBody, SheetView, SlipLine } from "../../../api/client";
import { later } from "../../../ui/later";
import type { Edit } from "../useSheetEditor";

export interface DrawingProps {
  sheetId: number;
  body: SheetBody;
  answer: Answer;
  edit: Edit;
  line: SlipLine | undefined;
}

export interface SettingsProps {
  sheet: SheetView;
  edit: Edit;
  instrument: string;
  selected: string | null;
}

interface Parts {
  Drawing: ComponentType<DrawingProps>;
  Settings: ComponentType<SettingsProps>;
}

interface Instrument extends Parts {
  /** What the drawing is called, and the settings beneath it. */
  name: string;
  settings: string;
}

/** The map of ISO and shutter: the sheet draws it itself. */
export const EXPOSURE = "exposure";

function parts(load: () => Promise<Parts>): Parts {
  return {
    Drawing: later(() => load().then((all) => all.Drawing)),
    Settings: later(() => load().then((all) => all.Settings)),
  };
}

const KNOWN: Record<string, Instrument> = {
  lens: {
    name: "Lens comparison",
    settings: "Lens and framing",
    ...parts(() => import("./lens")),
  },
  white: {
    name: "Warmth ribbon",
    settings: "White balance",
    ...parts(() => import("./white")),
  },
  focus: { name: "Depth strip", settings: "Focus", ...parts(() => import("./focus")) },
  save: { name: "File costs", settings: "What to save", ...parts(() => import("./save")) },
};
const PLAIN = parts(() => import("./plain"));

/** The instrument of that name; without a file of its own, its line and its fields. */
export function instrumentNamed(id: string, line: SlipLine | undefined): Instrument {
  const name = line?.name ?? "Settings";
  return KNOWN[id] ?? { name, settings: name, ...PLAIN };
}
