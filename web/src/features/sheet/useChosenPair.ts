import { useMemo, useState } from "react";

import type { SheetView } from "../../api/client";
import { type Pair, pairInForce, pairOf } from "./map/mapModel";
import type { Editor } from "./useSheetEditor";

export interface ChosenPair {
  /** The pair shown: being dragged, chosen by hand, or the plan's. */
  pair: Pair | null;
  planned: Pair | null;
  byHand: boolean;
  /** ISO and shutter of the pair. */
  steps: { iso: number; shutterS: number } | null;
  preview: (pair: Pair) => void;
  commit: (pair: Pair | null) => void;
}

/** The pair of steps in force, and how it is chosen by hand; null goes back to the plan's. */
export function useChosenPair(editor: Editor, sheet: SheetView): ChosenPair {
  const { body, answer } = sheet;
  const { map } = answer;
  const { edit } = editor;
  const [preview, setPreview] = useState<Pair | null>(null);
  // What was chosen by hand is kept until it is saved, so that keys may come faster than answers.
  const [wasSaving, setWasSaving] = useState(editor.saving);
  if (wasSaving !== editor.saving) {
    setWasSaving(editor.saving);
    if (!editor.saving) setPreview(null);
  }
  const planned = map && pairOf(map.planned);
  const settled = useMemo(
    () => (body.steps_by_hand ? pairInForce(map) : planned),
    [body.steps_by_hand, map, planned],
  );
  const pair = preview ?? settled;
  const stepsAt = (at: Pair | null) => {
    const iso = at && map?.isos[at.row]?.value;
    const shutter_s = at && map?.shutters[at.column]?.value_s;
    return iso && shutter_s ? { iso, shutter_s } : null;
  };
  const byHand = preview ? !isSame(preview, planned) : body.steps_by_hand !== null;
  const commit = (next: Pair | null) => {
    const steps_by_hand = isSame(next, planned) ? null : stepsAt(next);
    if (!steps_by_hand && !byHand && !body.steps_by_hand) {
      if (!editor.saving) setPreview(null);
      return;
    }
    // The plan's own pair is held too: the sheet shown may lag behind by a few keys.
    setPreview(next ?? planned);
    edit(steps_by_hand ? "steps by hand" : "back to plan", (b) => ({ ...b, steps_by_hand }));
  };
  const steps = stepsAt(pair);
  return {
    pair,
    planned,
    byHand,
    steps: steps && { iso: steps.iso, shutterS: steps.shutter_s },
    preview: setPreview,
    commit,
  };
}

function isSame(pair: Pair | null, other: Pair | null): boolean {
  return pair?.row === other?.row && pair?.column === other?.column;
}
