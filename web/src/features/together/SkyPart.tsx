import { useState } from "react";

import type { FrameSet, FrameSetAsked } from "../../api/client";
import { Button } from "../../ui/Button";
import { CheckField } from "../../ui/CheckField";
import { Select } from "../../ui/Field";

type Place = [number, number];

interface Props {
  set: FrameSet;
  asked: FrameSetAsked;
  onChange: (part: Partial<FrameSetAsked>) => void;
}

/** For stars: the line under which the land stays still, and the frame with the lens covered. */
export function SkyPart({ set, asked, onChange }: Props) {
  const [isDrawing, setDrawing] = useState(false);
  const line: Place[] = asked.horizon;
  return (
    <div className="grid gap-3">
      {asked.combine === "lighten" && asked.align === "none" && (
        <CheckField
          label="Star trails: close the gaps between frames"
          checked={asked.close_gaps}
          onChange={(close_gaps) => onChange({ close_gaps })}
        />
      )}
      {(asked.align === "stars" || asked.close_gaps) && set.frames > 0 && (
        <section aria-label="Horizon" className="rounded border border-line p-2.5">
          <p>
            <b>Land under the stars</b>
            <span className="block text-[0.93rem] text-soft">
              {line.length === 0
                ? "The sky is laid on its stars and the land smears. Draw the line between them once, and the land stays sharp."
                : `A line through ${line.length} places: below it the land stays where it is.`}
            </span>
          </p>
          {isDrawing && (
            <DrawnLine
              picture={`/api/stacks/${set.id}/first?of=${set.names[0] ?? ""}`}
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

interface LineProps {
  picture: string;
  line: Place[];
  onPlace: (place: Place) => void;
}

/** The line over the first frame; each click adds a place to it. */
function DrawnLine({ picture, line, onPlace }: LineProps) {
  const first = line[0];
  const last = line.at(-1);
  const through = first && last ? [[0, first[1]] as Place, ...line, [1, last[1]] as Place] : [];
  return (
    <div className="surround relative mt-2 rounded">
      <img src={picture} alt="The first frame, for its horizon" className="block w-full" />
      <svg
        viewBox="0 0 1000 1000"
        preserveAspectRatio="none"
        className="absolute inset-0 h-full w-full cursor-crosshair"
        role="img"
        aria-label="The horizon drawn so far"
        onPointerUp={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          onPlace([
            share((event.clientX - box.left) / box.width),
            share((event.clientY - box.top) / box.height),
          ]);
        }}
      >
        <polyline
          points={through.map(([x, y]) => `${1000 * x},${1000 * y}`).join(" ")}
          fill="none"
          stroke="white"
          strokeWidth="3"
          vectorEffect="non-scaling-stroke"
        />
      </svg>
    </div>
  );
}

const share = (value: number) => Number(Math.max(0, Math.min(1, value)).toFixed(4));
const sorted = (line: Place[]) => [...line].sort((a, b) => a[0] - b[0]);
