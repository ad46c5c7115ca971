import { useState } from "react";

import type { DayView } from "../../api/client";
import { useSize } from "../sheet/useSize";
import { clockOf, dayAxis } from "./dayAxis";
import { Band, BAND_TOP, EvRow, HourLines, LANES_TOP, RIGHT, ShadowRow } from "./DayDrawing";
import { fixed } from "../../ui/numbers";

/** Height of a lane with its name beside it, and above it where the strip is narrow. */
const LANE_PX = { beside: 26, above: 36 };
const NAME_PX = { beside: 214, none: 48 };
const NARROW_PX = 640;
const STEPS: Record<string, number> = { ArrowRight: 1, ArrowLeft: -1, PageUp: 4, PageDown: -4 };

export interface LaneOfDay {
  name: string;
  spans: readonly { from: number; to: number }[];
  at?: number | null;
  /** Its place in the order. */
  number?: number;
}

interface Props {
  day: DayView;
  lanes?: readonly LaneOfDay[];
}

/** A day as a strip of light: how bright it is, where shadows fall, and what works when. */
export function DayStrip({ day, lanes = [] }: Props) {
  const { quarters } = day.hours;
  const [box, size] = useSize<HTMLDivElement>({ width: 1100, height: 400 });
  const [place, setPlace] = useState(48);
  const width = Math.max(320, size.width);
  const first = quarters[0]?.unix_s ?? 0;
  const beside = width >= NARROW_PX && lanes.length > 0;
  const left = beside ? NAME_PX.beside : NAME_PX.none;
  const lanePx = beside ? LANE_PX.beside : LANE_PX.above;
  const axis = dayAxis(first, quarters.at(-1)?.unix_s ?? 1, width - left - RIGHT);
  const x = (unix: number) => left + axis.at(unix);
  const height = LANES_TOP + lanes.length * lanePx + 4;
  const now = quarters[Math.min(place, quarters.length - 1)];
  if (!now) return null;
  const put = (to: number) => setPlace(Math.max(0, Math.min(quarters.length - 1, to)));
  const pick = (offset: number) => put(Math.round((axis.unix(offset - left) - first) / 900));
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
          <EvRow {...{ day, x }} width={width - left} />
          <ShadowRow {...{ day, x }} width={width - left} body="sun" />
          <ShadowRow {...{ day, x }} width={width - left} body="moon" />
          {lanes.map((lane, at) => (
            <Lane key={at} {...{ lane, x, width, beside }} y={LANES_TOP + at * lanePx} />
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

/** What each thing faced reads at the moment pointed at, and what the marks mean. */
function Legend({ day, ev100 }: { day: DayView; ev100: Record<string, number> }) {
  return (
    <ul className="flex flex-wrap gap-x-6 gap-y-1 tabular-nums">
      {Object.entries(day.facings).map(([facing, name]) => (
        <li key={facing}>
          {name} <b>EV {fixed(ev100[facing] ?? 0, 1)}</b>
        </li>
      ))}
      <li className="text-soft">
        ± {day.hours.plus_minus_stops} {day.hours.plus_minus_stops > 1 ? "stops" : "stop"}
      </li>
      <li className="text-soft">Arrows: where shadows fall, north up; ° above the horizon</li>
    </ul>
  );
}

interface LaneProps {
  lane: LaneOfDay;
  x: (unix: number) => number;
  y: number;
  width: number;
  beside: boolean;
}

/** When one sheet works: its name left of its bars, or over them; its number where it begins. */
function Lane({ lane, x, y, width, beside }: LaneProps) {
  const bar = y + (beside ? 6 : 18);
  return (
    <g>
      <text x={4} y={y + (beside ? 17 : 12)} fontSize="13" fill="var(--ink)">
        {beside ? shortened(lane.name) : lane.name}
      </text>
      {lane.spans.map((span) => (
        <rect
          key={span.from}
          x={x(span.from)}
          y={bar}
          width={Math.max(3, Math.min(x(span.to), width - RIGHT) - x(span.from))}
          height={14}
          fill="var(--accent-soft)"
          stroke="var(--accent)"
        />
      ))}
      {lane.at && (
        <g>
          <circle cx={x(lane.at)} cy={bar + 7} r="10" fill="var(--accent)" />
          <text
            x={x(lane.at)}
            y={bar + 11.5}
            fontSize="12.5"
            fontWeight="700"
            textAnchor="middle"
            fill="var(--on-accent)"
          >
            {lane.number}
          </text>
        </g>
      )}
    </g>
  );
}

const LONGEST_NAME = 31;

/** A name that has room left of its bars; the whole of it is in the order. */
function shortened(name: string): string {
  return name.length > LONGEST_NAME ? `${name.slice(0, LONGEST_NAME - 1).trimEnd()}…` : name;
}
