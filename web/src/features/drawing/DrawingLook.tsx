import { useState } from "react";

import type { LampDrawing, LampDrawingPlan } from "../../api/client";
import { Segmented } from "../../ui/Segmented";
import { useMadeImage } from "../../api/useMadeImage";

interface Props {
  id: number;
  body: { drawing: Partial<LampDrawing> };
  planned: LampDrawingPlan | null;
}

/** Predicted frame, or the way of the hand as the one who draws sees it. */
export function DrawingLook({ id, body, planned }: Props) {
  const [shown, setShown] = useState<"frame" | "hand">("frame");
  const { url, error, isBusy } = useMadeImage(`/sheets/${id}/drawing/picture`, body);
  return (
    <div className="grid gap-2">
      <div className="surround grid h-[58dvh] grid-rows-[minmax(0,1fr)] place-items-center max-md:h-[76vw] overflow-hidden rounded p-2">
        {shown === "frame" && url && (
          <img
            src={url}
            alt="Predicted frame"
            className={`max-h-full max-w-full object-contain ${isBusy ? "opacity-80" : ""}`}
          />
        )}
        {shown === "frame" && !url && <p className="text-white">{error ?? "Drawing…"}</p>}
        {shown === "hand" && planned && <Hand planned={planned} />}
      </div>
      <div className="flex flex-wrap items-center gap-3">
        <div className="w-80 max-w-full">
          <Segmented
            label="View"
            value={shown}
            options={[
              { value: "frame", text: "Frame" },
              { value: "hand", text: "As you draw" },
            ]}
            onChange={setShown}
          />
        </div>
      </div>
    </div>
  );
}

/** Strokes mirrored, as seen by the one who faces the phone, numbered in order. */
function Hand({ planned }: { planned: LampDrawingPlan }) {
  const margin = 0.12;
  const width = planned.width + 2 * margin;
  return (
    <svg
      viewBox={`0 0 ${width} ${1 + 2 * margin}`}
      className="h-full w-full"
      role="img"
      aria-label="Path of the hand, mirrored"
    >
      {planned.strokes.map((stroke, at) => {
        const points = stroke.map(([x, y]) => [width - margin - x, y + margin] as const);
        const [first] = points;
        return (
          <g key={at}>
            <polyline
              points={points.map((place) => place.join(",")).join(" ")}
              fill="none"
              stroke="white"
              strokeWidth="0.03"
              strokeLinejoin="round"
              strokeLinecap="round"
            />
            {first && (
              <>
                <circle cx={first[0]} cy={first[1]} r="0.05" fill="var(--accent)" />
                <text
                  x={first[0]}
                  y={first[1] + 0.025}
                  fontSize="0.07"
                  textAnchor="middle"
                  fill="white"
                >
                  {at + 1}
                </text>
              </>
            )}
          </g>
        );
      })}
    </svg>
  );
}
