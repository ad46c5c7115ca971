import { useState } from "react";

import type { Stack, StackAsked } from "../../api/client";
import { Button } from "../../ui/Button";
import { Dialog } from "../../ui/Dialog";
import { DrawnLine, type Place } from "./DrawnLine";

interface Props {
  set: Stack;
  asked: StackAsked;
  onChange: (part: Partial<StackAsked>) => void;
}

/** The line between foreground and sky, drawn once, over the foreground's own frame where there is one. */
export function HorizonPart({ set, asked, onChange }: Props) {
  const [isOpen, setOpen] = useState(false);
  const line: Place[] = asked.horizon;
  // At dusk the skyline shows; in a frame of stars one would have to guess it.
  const shown = asked.land[0] ?? "";
  const about = wordsOf(line, shown !== "");
  return (
    <section aria-label="Horizon" className="rounded border border-line p-2.5">
      <p>
        <b>Horizon line</b>
        <span className="block text-[0.93rem] text-soft">{about}</span>
      </p>
      <div className="mt-2 flex gap-2">
        <Button onClick={() => setOpen(true)}>
          {line.length > 0 ? "Change line" : "Draw line"}
        </Button>
        {line.length > 0 && (
          <Button look="quiet" onClick={() => onChange({ horizon: [] })}>
            Delete line
          </Button>
        )}
      </div>
      {isOpen && (
        <Dialog wide open title="Horizon line" onOpenChange={setOpen}>
          <p className="mb-2">
            {shown === ""
              ? "Click along the skyline. Click a point to delete it."
              : "Click along the foreground just under the skyline. Click a point to delete it."}
          </p>
          <DrawnLine
            picture={`/api/stacks/${set.id}/first?name=${encodeURIComponent(shown)}&of=${set.names[0] ?? ""}`}
            line={line}
            onLine={(horizon) => onChange({ horizon })}
          />
          <p role="status" className="mt-2 text-soft">
            {line.length < 2
              ? `${line.length} of at least 2 points.`
              : `${line.length} points, saved.`}
          </p>
        </Dialog>
      )}
    </section>
  );
}

function wordsOf(line: Place[], hasOwnLand: boolean): string {
  if (line.length === 1) return "Add one more point.";
  if (line.length > 1) return `A line through ${line.length} points. The foreground is below it.`;
  return hasOwnLand
    ? "Draw it just under the skyline. Below it the foreground frames are used. Oxlen finds dark shapes above it."
    : "The sky is aligned on its stars, so the foreground smears. Draw the horizon line once to keep the foreground sharp.";
}
