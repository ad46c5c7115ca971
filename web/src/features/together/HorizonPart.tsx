import { useState } from "react";

import type { FrameSet, FrameSetAsked } from "../../api/client";
import { Button } from "../../ui/Button";
import { Dialog } from "../../ui/Dialog";
import { DrawnLine, type Place } from "./DrawnLine";

interface Props {
  set: FrameSet;
  asked: FrameSetAsked;
  onChange: (part: Partial<FrameSetAsked>) => void;
}

/** The line between land and sky, drawn once, over the land's own frame where there is one. */
export function HorizonPart({ set, asked, onChange }: Props) {
  const [isOpen, setOpen] = useState(false);
  const line: Place[] = asked.horizon;
  // At dusk the skyline shows; in a frame of stars one would have to guess it.
  const shown = asked.land[0] ?? "";
  const about = wordsOf(line, shown !== "");
  return (
    <section aria-label="Horizon" className="rounded border border-line p-2.5">
      <p>
        <b>Where land and sky meet</b>
        <span className="block text-[0.93rem] text-soft">{about}</span>
      </p>
      <div className="mt-2 flex gap-2">
        <Button onClick={() => setOpen(true)}>
          {line.length > 0 ? "Change the line" : "Draw the line"}
        </Button>
        {line.length > 0 && (
          <Button look="quiet" onClick={() => onChange({ horizon: [] })}>
            No line
          </Button>
        )}
      </div>
      {isOpen && (
        <Dialog wide open title="Where land and sky meet" onOpenChange={setOpen}>
          <p className="mb-2">
            {shown === ""
              ? "Click along the skyline. A click on a place takes it away."
              : "Click along the land just under the skyline. A click on a place takes it away."}
          </p>
          <DrawnLine
            picture={`/api/stacks/${set.id}/first?name=${encodeURIComponent(shown)}&of=${set.names[0] ?? ""}`}
            line={line}
            onLine={(horizon) => onChange({ horizon })}
          />
          <p role="status" className="mt-2 text-soft">
            {line.length < 2
              ? `${line.length} of two places at least.`
              : `${line.length} places. Kept as you go.`}
          </p>
        </Dialog>
      )}
    </section>
  );
}

function wordsOf(line: Place[], hasOwnLand: boolean): string {
  if (line.length === 1) return "One more place at least.";
  if (line.length > 1) return `A line through ${line.length} places: below it lies the land.`;
  return hasOwnLand
    ? "Draw it just under the skyline: below it the land’s own frames are taken, and what stands up dark over it is found."
    : "The sky is laid on its stars and the land smears. Draw the line between them once, and the land stays sharp.";
}
