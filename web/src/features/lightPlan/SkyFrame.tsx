import { useState } from "react";

import type { NightPlan } from "../../api/client";
import { Segmented } from "../../ui/Segmented";
import { clockOf } from "./dayAxis";

type Frame = NightPlan["frames"][number];
type Held = Frame["held"];

const HELD = [
  { value: "upright", text: "Upright" },
  { value: "wide", text: "Wide" },
] as const;
/** Units of the drawing along the frame's longer side. */
const LONG = 1000;
/** The ribbon's widths and opacities, one over the other: bright within, soft at its edges. */
const GLOW: readonly [number, number][] = [
  [210, 0.07],
  [140, 0.12],
  [80, 0.17],
  [36, 0.24],
];

/** What the lens sees of the sky: the Milky Way over the skyline, moved by the time of night. */
export function SkyFrame({ night }: { night: NightPlan }) {
  const [held, setHeld] = useState<Held>("upright");
  const [chosen, setChosen] = useState<number | null>(null);
  const frame = night.frames.find((each) => each.held === held);
  const place = Math.min(chosen ?? frame?.best ?? 0, (frame?.moments.length ?? 1) - 1);
  const moment = frame?.moments[place];
  if (!frame || !moment) return null;
  const time = clockOf(moment.at);
  return (
    <div className="grid gap-3 sm:grid-cols-[auto_minmax(0,1fr)] sm:items-end">
      <Drawing frame={frame} place={place} name={`${night.lens}, ${time}: ${moment.words}`} />
      <div className="grid gap-2">
        <p className="text-lg leading-snug">
          <b className="tabular-nums">{time}</b> {moment.words}
          {place === frame.best && <span className="text-soft">, best time</span>}
        </p>
        <label className="block">
          <span className="mb-0.5 block text-[0.82rem] text-soft">Time of night</span>
          <input
            type="range"
            className="h-11 w-full accent-(--accent)"
            min={0}
            max={frame.moments.length - 1}
            value={place}
            aria-valuetext={`${time}, ${moment.words}`}
            onChange={(event) => setChosen(Number(event.target.value))}
          />
          <span className="flex justify-between text-[0.85rem] text-soft tabular-nums">
            <span>{clockOf(frame.moments[0]?.at ?? "")}</span>
            <span>{clockOf(frame.moments.at(-1)?.at ?? "")}</span>
          </span>
        </label>
        <Segmented label="Frame held" value={held} options={HELD} onChange={setHeld} />
        <p className="text-[0.92rem] text-soft">
          {night.lens} lens, {Math.round(frame.across_deg)}° × {Math.round(frame.down_deg)}°, aimed{" "}
          {Math.round(frame.altitude_deg)}° up.
        </p>
      </div>
    </div>
  );
}

function Drawing({ frame, place, name }: { frame: Frame; place: number; name: string }) {
  const upright = frame.held === "upright";
  const ratio =
    Math.tan((frame.across_deg * Math.PI) / 360) / Math.tan((frame.down_deg * Math.PI) / 360);
  const [width, height] = upright ? [LONG * ratio, LONG] : [LONG, LONG / ratio];
  const { ribbon, core } = frame.moments[place] ?? { ribbon: [], core: null };
  const at = ([x, y]: readonly number[]) => `${(x ?? 0) * width} ${(y ?? 0) * height}`;
  const skyline = frame.skyline.map((point) => `L${at(point)}`).join("");
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={name}
      className={`block max-w-full rounded-xs bg-[#14171c] ${upright ? "h-[22rem]" : "h-[15rem]"}`}
    >
      <filter id="soft" x="-50%" y="-50%" width="200%" height="200%">
        <feGaussianBlur stdDeviation="16" />
      </filter>
      <g filter="url(#soft)">
        {ribbon.slice(1).map((point, index) => {
          const before = ribbon[index] ?? point;
          const strength = ((before[2] + point[2]) / 2) ** 2;
          return GLOW.map(([wide, opacity]) => (
            <path
              key={`${index} ${wide}`}
              d={`M${at(before)}L${at(point)}`}
              stroke="#dfe3ea"
              strokeWidth={wide * (0.35 + 0.65 * strength)}
              opacity={opacity * (0.25 + 0.75 * strength)}
            />
          ));
        })}
        {core && (
          <circle cx={core[0] * width} cy={core[1] * height} r={46} fill="#ffffff" opacity="0.5" />
        )}
      </g>
      <path
        d={`M${-width} ${2 * height}${skyline}L${2 * width} ${2 * height}Z`}
        fill="#050506"
        stroke="#565b63"
        strokeWidth="3"
      />
    </svg>
  );
}
