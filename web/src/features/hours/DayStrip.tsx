import { useState } from "react";

import type { DayView } from "../../api/client";
import { useSize } from "../sheet/useSize";
import { clockOf, dayAxis, greyOf } from "./dayAxis";

const LEFT = 44;
const RIGHT = 12;
const BAND_TOP = 22;
const BAND_PX = 46;
const CURVE_TOP = BAND_TOP + BAND_PX + 12;
const CURVE_PX = 120;
const SKY_TOP = CURVE_TOP + CURVE_PX + 14;
const SKY_PX = 96;
const LANE_PX = 26;
const EV_TOP = 16;
const EV_LOW = -12;
const DASHES: Record<string, string> = { open: "", away: "7 3", towards: "2 3", shade: "9 3 2 3" };

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
  const { hours, facings } = day;
  const { quarters } = hours;
  const [box, size] = useSize<HTMLDivElement>({ width: 1100, height: 400 });
  const [place, setPlace] = useState(48);
  const width = Math.max(320, size.width);
  const first = quarters[0]?.unix_s ?? 0;
  const last = quarters.at(-1)?.unix_s ?? 1;
  const axis = dayAxis(first, last, width - LEFT - RIGHT);
  const x = (unix: number) => LEFT + axis.at(unix);
  const ev = (value: number) =>
    CURVE_TOP +
    (CURVE_PX * (EV_TOP - Math.max(EV_LOW, Math.min(EV_TOP, value)))) / (EV_TOP - EV_LOW);
  const up = (deg: number) => SKY_TOP + SKY_PX / 2 - (SKY_PX / 2) * (deg / 90);
  const lanesTop = SKY_TOP + SKY_PX + 10;
  const height = lanesTop + lanes.length * LANE_PX + 4;
  const now = quarters[Math.min(place, quarters.length - 1)];
  if (!now) return null;
  const line = (value: (at: number) => number) =>
    quarters.map((one, at) => `${x(one.unix_s)},${value(at)}`).join(" ");
  const curve = (facing: string, off = 0) =>
    line((at) => ev((quarters[at]?.ev100[facing] ?? 0) + off));
  const doubt = hours.plus_minus_stops;
  const pick = (offset: number) =>
    setPlace(
      Math.max(
        0,
        Math.min(quarters.length - 1, Math.round((axis.unix(offset - LEFT) - first) / 900)),
      ),
    );
  return (
    <div>
      <div ref={box}>
        <svg
          width="100%"
          height={height}
          viewBox={`0 0 ${width} ${height}`}
          role="slider"
          tabIndex={0}
          aria-label="Time of the day"
          aria-valuemin={0}
          aria-valuemax={quarters.length - 1}
          aria-valuenow={place}
          aria-valuetext={`${clockOf(now.at)}, ${now.words}`}
          className="block cursor-ew-resize touch-pan-y select-none"
          onKeyDown={(event) => {
            const by = { ArrowRight: 1, ArrowLeft: -1, PageUp: 4, PageDown: -4 }[event.key];
            if (by === undefined) return;
            event.preventDefault();
            setPlace(Math.max(0, Math.min(quarters.length - 1, place + by)));
          }}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            pick(event.nativeEvent.offsetX);
          }}
          onPointerMove={(event) => event.buttons > 0 && pick(event.nativeEvent.offsetX)}
        >
          {quarters.slice(0, -1).map((one, at) => (
            <rect
              key={one.unix_s}
              x={x(one.unix_s)}
              y={BAND_TOP}
              width={axis.at(first + 900) + 0.6}
              height={BAND_PX}
              fill={greyOf(((one.ev100["open"] ?? 0) + (quarters[at + 1]?.ev100["open"] ?? 0)) / 2)}
            />
          ))}
          {hours.moments.map((one) => (
            <line
              key={`${one.unix_s}${one.words}`}
              x1={x(one.unix_s)}
              x2={x(one.unix_s)}
              y1={BAND_TOP + BAND_PX - 9}
              y2={BAND_TOP + BAND_PX + 5}
              stroke="var(--ink)"
              strokeWidth="1.5"
            />
          ))}
          {quarters
            .filter((_, at) => at % (width > 640 ? 8 : 16) === 0)
            .map((one) => (
              <g key={one.at}>
                <text
                  x={x(one.unix_s)}
                  y={15}
                  fontSize="12.5"
                  textAnchor="middle"
                  fill="var(--ink-soft)"
                >
                  {Number(clockOf(one.at).slice(0, 2))}
                </text>
                <line
                  x1={x(one.unix_s)}
                  x2={x(one.unix_s)}
                  y1={CURVE_TOP}
                  y2={height}
                  stroke="var(--line)"
                />
              </g>
            ))}
          {[15, 10, 5, 0, -5, -10].map((value) => (
            <text
              key={value}
              x={LEFT - 6}
              y={ev(value) + 4}
              fontSize="12"
              textAnchor="end"
              fill="var(--ink-soft)"
            >
              {value < 0 ? `−${-value}` : value}
            </text>
          ))}
          <text x={4} y={CURVE_TOP + 4} fontSize="12" fill="var(--ink-soft)">
            EV
          </text>
          <polygon
            points={`${curve("open", doubt)} ${[...curve("open", -doubt).split(" ")].reverse().join(" ")}`}
            fill="var(--sunk)"
          />
          {Object.keys(facings).map((facing) => (
            <polyline
              key={facing}
              points={curve(facing)}
              fill="none"
              stroke={facing === "open" ? "var(--accent)" : "var(--ink)"}
              strokeWidth={facing === "open" ? 2.5 : 1.4}
              strokeDasharray={DASHES[facing]}
            />
          ))}
          <line x1={LEFT} x2={width - RIGHT} y1={up(0)} y2={up(0)} stroke="var(--line-strong)" />
          <text x={LEFT - 6} y={up(0) + 4} fontSize="12" textAnchor="end" fill="var(--ink-soft)">
            level
          </text>
          <text x={LEFT - 6} y={up(80) + 4} fontSize="12" textAnchor="end" fill="var(--ink-soft)">
            up
          </text>
          <polyline
            points={line((at) => up(quarters[at]?.sun_altitude_deg ?? 0))}
            fill="none"
            stroke="var(--ink)"
            strokeWidth="2"
          />
          <polyline
            points={line((at) => up(quarters[at]?.moon_altitude_deg ?? 0))}
            fill="none"
            stroke="var(--ink-soft)"
            strokeWidth="1.6"
            strokeDasharray="5 4"
          />
          {(["sun", "moon"] as const).map((body) => {
            const top = highest(quarters.map((one) => one[`${body}_altitude_deg`]));
            const deg = quarters[top]?.[`${body}_altitude_deg`] ?? 0;
            return (
              <text
                key={body}
                x={x(quarters[top]?.unix_s ?? first)}
                y={up(deg) - 6}
                fontSize="12.5"
                textAnchor={top < 8 ? "start" : top > 88 ? "end" : "middle"}
                stroke="var(--panel)"
                strokeWidth="3"
                paintOrder="stroke"
                fill={body === "sun" ? "var(--ink)" : "var(--ink-soft)"}
              >
                {body === "sun" ? "Sun" : "Moon"}
              </text>
            );
          })}
          {lanes.map((lane, at) => (
            <Lane key={lane.name} {...{ lane, x, width }} y={lanesTop + at * LANE_PX} />
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
      <ul className="flex flex-wrap gap-x-6 gap-y-1 tabular-nums">
        {Object.entries(facings).map(([facing, name]) => (
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
            {name} <b>EV {signed(now.ev100[facing] ?? 0)}</b>
          </li>
        ))}
        <li className="text-soft">± {doubt} stops</li>
      </ul>
    </div>
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

const highest = (values: number[]) => values.indexOf(Math.max(...values));

const signed = (value: number) => `${value < 0 ? "−" : ""}${Math.abs(value).toFixed(1)}`;
