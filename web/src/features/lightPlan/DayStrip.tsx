import { useState } from "react";

import type { DayView } from "../../api/client";
import { useSize } from "../sheet/useSize";
import { clockOf, dayAxis } from "./dayAxis";
import {
  Band,
  BAND_TOP,
  Curves,
  DASHES,
  Heights,
  HourLines,
  LANES_TOP,
  LEFT,
  RIGHT,
} from "./DayDrawing";
import { fixed } from "../../ui/numbers";

const LANE_PX = 26;
const STEPS: Record<string, number> = { ArrowRight: 1, ArrowLeft: -1, PageUp: 4, PageDown: -4 };

export interface LaneOfDay {
  name: string;
  spans: readonly { from: number; to: number }[];
  at?: number | null;
}

interface Props {
  day: DayView;
  lanes?: readonly LaneOfDay[];
}

/** A day as a strip of light: how bright it is, where Sun and Moon stand, and what works when. */
export function DayStrip({ day, lanes = [] }: Props) {
  const { quarters } = day.hours;
  const [box, size] = useSize<HTMLDivElement>({ width: 1100, height: 400 });
  const [place, setPlace] = useState(48);
  const width = Math.max(320, size.width);
  const first = quarters[0]?.unix_s ?? 0;
  const axis = dayAxis(first, quarters.at(-1)?.unix_s ?? 1, width - LEFT - RIGHT);
  const x = (unix: number) => LEFT + axis.at(unix);
  const height = LANES_TOP + lanes.length * LANE_PX + 4;
  const now = quarters[Math.min(place, quarters.length - 1)];
  if (!now) return null;
  const put = (to: number) => setPlace(Math.max(0, Math.min(quarters.length - 1, to)));
  const pick = (offset: number) => put(Math.round((axis.unix(offset - LEFT) - first) / 900));
  return (
    <div>
      <div ref={box}>
        <svg
          width="100%"
          height={height}
          viewBox={`0 0 ${width} ${height}`}
          role="slider"
          tabIndex={0}
          aria-label="Time of day"
          aria-valuemin={0}
          aria-valuemax={quarters.length - 1}
          aria-valuenow={place}
          aria-valuetext={`${clockOf(now.at)}, ${now.words}`}
          className="block cursor-ew-resize touch-pan-y select-none"
          onKeyDown={(event) => {
            const by = STEPS[event.key];
            if (by === undefined) return;
            event.preventDefault();
            put(place + by);
          }}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            pick(event.nativeEvent.offsetX);
          }}
          onPointerMove={(event) => event.buttons > 0 && pick(event.nativeEvent.offsetX)}
        >
          <Band {...{ day, x, width }} />
          <HourLines {...{ day, x, width, height }} />
          <Curves {...{ day, x, width }} />
          <Heights {...{ day, x, width }} />
          {lanes.map((lane, at) => (
            <Lane key={at} {...{ lane, x, width }} y={LANES_TOP + at * LANE_PX} />
          ))}
          <line
            x1={x(now.unix_s)}
            x2={x(now.unix_s)}
            y1={BAND_TOP - 4}
            y2={height}
            stroke="var(--accent)"
            strokeWidth="2"
          />
        </svg>
      </div>
      <p aria-live="polite" className="mt-1 text-lg tabular-nums">
        <b>{clockOf(now.at)}</b> <span className="text-base text-soft">{now.words}</span>
      </p>
      <Legend day={day} ev100={now.ev100} />
    </div>
  );
}

/** What each thing faced reads at the moment pointed at. */
function Legend({ day, ev100 }: { day: DayView; ev100: Record<string, number> }) {
  return (
    <ul className="flex flex-wrap gap-x-6 gap-y-1 tabular-nums">
      {Object.entries(day.facings).map(([facing, name]) => (
        <li key={facing} className="flex items-center gap-2">
          <svg width="26" height="6" aria-hidden="true">
            <line
              x1="0"
              x2="26"
              y1="3"
              y2="3"
              stroke={facing === "open" ? "var(--accent)" : "var(--ink)"}
              strokeWidth={facing === "open" ? 2.5 : 1.4}
              strokeDasharray={DASHES[facing]}
            />
          </svg>
          {name} <b>EV {fixed(ev100[facing] ?? 0, 1)}</b>
        </li>
      ))}
      <li className="text-soft">
        ± {day.hours.plus_minus_stops} {day.hours.plus_minus_stops > 1 ? "stops" : "stop"}
      </li>
    </ul>
  );
}

interface LaneProps {
  lane: LaneOfDay;
  x: (unix: number) => number;
  y: number;
  width: number;
}

/** When one sheet works: its name over the bar. */
function Lane({ lane, x, y, width }: LaneProps) {
  return (
    <g>
      {lane.spans.map((span) => (
        <rect
          key={span.from}
          x={x(span.from)}
          y={y + 13}
          width={Math.max(3, Math.min(x(span.to), width - RIGHT) - x(span.from))}
          height={8}
          fill="var(--accent-soft)"
          stroke="var(--accent)"
        />
      ))}
      {lane.at && <circle cx={x(lane.at)} cy={y + 17} r="5" fill="var(--accent)" />}
      <text
        x={LEFT + 4}
        y={y + 9}
        fontSize="12.5"
        stroke="var(--panel)"
        strokeWidth="3"
        paintOrder="stroke"
        fill="var(--ink)"
      >
        {lane.name}
      </text>
    </g>
  );
}
