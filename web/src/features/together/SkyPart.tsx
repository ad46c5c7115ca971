import { useState } from "react";

import type { FrameSet, FrameSetAsked } from "../../api/client";
import { Button } from "../../ui/Button";
import { CheckField } from "../../ui/CheckField";
import { Select } from "../../ui/Field";
import { DrawnLine, type Place } from "./DrawnLine";
import { LandPart } from "./LandPart";

interface Props {
  set: FrameSet;
  asked: FrameSetAsked;
  onChange: (part: Partial<FrameSetAsked>) => void;
  onAddTakes: (takes: number[]) => void;
}

/** For stars: the line under which the land stays still, and the frame with the lens covered. */
export function SkyPart({ set, asked, onChange, onAddTakes }: Props) {
  const [isDrawing, setDrawing] = useState(false);
  const line: Place[] = asked.horizon;
  // At dusk the skyline shows; in a frame of stars one would have to guess it.
  const shown = asked.land[0] ?? "";
  const isSky = asked.align === "stars" || asked.combine === "lighten";
  return (
    <div className="grid gap-3">
      {asked.combine === "lighten" && asked.align === "none" && (
        <CheckField
          label="Star trails: close the gaps between frames"
          checked={asked.close_gaps}
          onChange={(close_gaps) => onChange({ close_gaps })}
        />
      )}
      {isSky && set.frames > 0 && (
        <LandPart set={set} asked={asked} onChange={onChange} onAddTakes={onAddTakes} />
      )}
      {(asked.align === "stars" || asked.close_gaps || shown !== "") && set.frames > 0 && (
        <section aria-label="Horizon" className="rounded border border-line p-2.5">
          <p>
            <b>Land under the stars</b>
            <span className="block text-[0.93rem] text-soft">{wordsOf(line, shown !== "")}</span>
          </p>
          {isDrawing && (
            <DrawnLine
              picture={`/api/stacks/${set.id}/first?name=${encodeURIComponent(shown)}&of=${set.names[0] ?? ""}`}
              line={line}
              onPlace={(place) => onChange({ horizon: sorted([...line, place]) })}
            />
          )}
          <div className="mt-2 flex gap-2">
            <Button onClick={() => setDrawing(!isDrawing)}>
              {isDrawing ? "Done" : "Draw the horizon"}
            </Button>
            {line.length > 0 && (
              <Button look="quiet" onClick={() => onChange({ horizon: [] })}>
                No horizon
              </Button>
            )}
          </div>
          {line.length === 1 && <p role="status">One more place at least.</p>}
        </section>
      )}
      <Select
        label="Frame with the lens covered"
        value={asked.dark ?? ""}
        options={[
          { value: "", text: "None: hot pixels stay" },
          ...set.names.map((name) => ({ value: name, text: name })),
        ]}
        onChange={(name) => onChange({ dark: name === "" ? null : name })}
      />
    </div>
  );
}

function wordsOf(line: Place[], hasOwnLand: boolean): string {
  if (line.length > 0) return `A line through ${line.length} places: below it lies the land.`;
  return hasOwnLand
    ? "Draw the line just under the skyline: below it the land’s own frames are taken, and what stands up dark over it is found."
    : "The sky is laid on its stars and the land smears. Draw the line between them once, and the land stays sharp.";
}

const sorted = (line: Place[]) => [...line].sort((a, b) => a[0] - b[0]);
