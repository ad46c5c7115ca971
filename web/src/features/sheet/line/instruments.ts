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
  /** What it is called on its tab, its drawing, and the settings beneath it. */
  short: string;
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
    short: "Lens",
    name: "Lens comparison",
    settings: "Lens and framing",
    ...parts(() => import("./lens")),
  },
  white: {
    short: "White balance",
    name: "Warmth ribbon",
    settings: "White balance",
    ...parts(() => import("./white")),
  },
  focus: {
    short: "Focus",
    name: "Depth strip",
    settings: "Focus",
    ...parts(() => import("./focus")),
  },
  save: {
    short: "Save",
    name: "File costs",
    settings: "What to save",
    ...parts(() => import("./save")),
  },
};
const PLAIN = parts(() => import("./plain"));

/** The instrument of that name; without a file of its own, its line and its fields. */
export function instrumentNamed(id: string, line: SlipLine | undefined): Instrument {
  const name = line?.name ?? "Settings";
  return KNOWN[id] ?? { short: name, name, settings: name, ...PLAIN };
}
