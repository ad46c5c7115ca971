import { type KeyboardEvent, type PointerEvent, useState } from "react";

import type { PlaceBody } from "../../api/client";
import { useSize } from "../sheet/useSize";

const [HIGH, TOP, BOTTOM, TOP_DEG, NEAR_PX] = [170, 10, 24, 45, 22];
const STEPS: Record<string, readonly [bearing: number, height: number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};
const WINDS = ["north", "east", "south", "west", "north"];

interface Props {
  body: PlaceBody;
  onChange: (part: Partial<PlaceBody>) => void;
}

type Point = PlaceBody["horizon"][number];

/** All round the horizon: points of what hides the sky are drawn along, a click adds one. */
export function LowSkyDrawing({ body, onChange }: Props) {
  const [box, size] = useSize<HTMLDivElement>({ width: 830, height: HIGH });
  const [held, setHeld] = useState<number | null>(null);
  const [drawn, setDrawn] = useState<Point[] | null>(null);
  const points = drawn ?? body.horizon;
  const x = (bearing: number) => (size.width * bearing) / 360;
  const y = (deg: number) => TOP + (HIGH - TOP - BOTTOM) * (1 - deg / TOP_DEG);
  const at = ({ nativeEvent: { offsetX, offsetY } }: PointerEvent): Point => ({
    bearing_deg: clamp((360 * offsetX) / size.width, 359),
    height_deg: clamp(TOP_DEG * (1 - (offsetY - TOP) / (HIGH - TOP - BOTTOM)), TOP_DEG),
  });
  const begin = (event: PointerEvent) => {
    const { offsetX, offsetY } = event.nativeEvent;
    const away = body.horizon.map((point) =>
      Math.hypot(x(point.bearing_deg) - offsetX, y(point.height_deg) - offsetY),
    );
    const nearest = away.indexOf(Math.min(...away));
    const isNew = nearest < 0 || (away[nearest] ?? NEAR_PX) >= NEAR_PX;
    event.currentTarget.setPointerCapture(event.pointerId);
    setHeld(isNew ? body.horizon.length : nearest);
    setDrawn(isNew ? [...body.horizon, at(event)] : body.horizon);
  };
  const drag = (event: PointerEvent) => {
    if (held === null || drawn === null) return;
    setDrawn(drawn.map((point, place) => (place === held ? at(event) : point)));
  };
  const end = () => {
    if (drawn !== null)
      onChange({ horizon: [...drawn].sort((a, b) => a.bearing_deg - b.bearing_deg) });
    setDrawn(null);
    setHeld(null);
  };
  /** A point goes no further than the ones beside it: it stays the one that has the focus. */
  const move = (event: KeyboardEvent, place: number) => {
    const by = STEPS[event.key];
    const point = body.horizon[place];
    if (!by || !point) return;
    event.preventDefault();
    const step = event.shiftKey ? 10 : 1;
    const low = (body.horizon[place - 1]?.bearing_deg ?? -1) + 1;
    const high = (body.horizon[place + 1]?.bearing_deg ?? 360) - 1;
    const bearing = clamp(point.bearing_deg + step * by[0], 359);
    const next = {
      bearing_deg: Math.min(high, Math.max(low, bearing)),
      height_deg: clamp(point.height_deg + step * by[1], TOP_DEG),
    };
    onChange({ horizon: body.horizon.map((kept, at) => (at === place ? next : kept)) });
  };
  return (
    <figure>
      <figcaption className="mb-1 text-[0.85rem] text-soft">
        Click to add a point and drag it to where the sky begins. Arrow keys move the chosen point.
      </figcaption>
      <div ref={box} className="overflow-hidden rounded border border-line bg-raised">
        <svg
          width="100%"
          height={HIGH}
          viewBox={`0 0 ${size.width} ${HIGH}`}
          role="group"
          aria-label={`Horizon, ${points.length} bearings`}
          className="block cursor-crosshair touch-none"
          onPointerDown={begin}
          onPointerMove={drag}
          onPointerUp={end}
        >
          <path d={skyline(points, size.width, x, y)} fill="var(--line)" stroke="var(--ink-soft)" />
          {body.glow.map((point) => (
            <path
              key={point.bearing_deg}
              d={`M${x(point.bearing_deg) - size.width / 14} ${y(0)}a${size.width / 14} ${14 + 12 * point.stops} 0 0 1 ${size.width / 7} 0z`}
              fill="var(--accent)"
              opacity="0.2"
              pointerEvents="none"
            />
          ))}
          {[10, 20, 30, 40].map((deg) => (
            <g key={deg} pointerEvents="none">
              <line x1={0} x2={size.width} y1={y(deg)} y2={y(deg)} stroke="var(--line)" />
              <text x={4} y={y(deg) - 3} fontSize="12" fill="var(--ink-soft)">
                {deg}°
              </text>
            </g>
          ))}
          {points.map((point, place) => (
            <circle
              key={place}
              cx={x(point.bearing_deg)}
              cy={y(point.height_deg)}
              r={place === held ? 8 : 6}
              fill="var(--accent)"
              stroke="var(--panel)"
              strokeWidth="1.5"
              pointerEvents="none"
              tabIndex={0}
              role="slider"
              aria-label={`Height at ${point.bearing_deg}°`}
              aria-valuemin={0}
              aria-valuemax={TOP_DEG}
              aria-valuenow={point.height_deg}
              aria-valuetext={`${point.height_deg}° high`}
              onKeyDown={(event) => move(event, place)}
            />
          ))}
          {WINDS.map((text, quarter) => (
            <text
              key={quarter}
              x={Math.max(20, Math.min(size.width - 20, x(90 * quarter)))}
              y={HIGH - 7}
              fontSize="12.5"
              textAnchor="middle"
              fill="var(--ink-soft)"
            >
              {text}
            </text>
          ))}
        </svg>
      </div>
    </figure>
  );
}

const clamp = (value: number, most: number) => Math.round(Math.max(0, Math.min(most, value)));

/** Straight between its points, the last going on to the first. */
function skyline(
  points: readonly Point[],
  width: number,
  x: (deg: number) => number,
  y: (deg: number) => number,
): string {
  const sorted = [...points].sort((a, b) => a.bearing_deg - b.bearing_deg);
  const [first, last] = [sorted[0], sorted.at(-1)];
  if (!first || !last) return `M0 ${y(0)}H${width}`;
  const turned = [
    { ...last, bearing_deg: last.bearing_deg - 360 },
    ...sorted,
    { ...first, bearing_deg: first.bearing_deg + 360 },
  ];
  const places = turned.map((point) => `${x(point.bearing_deg)} ${y(point.height_deg)}`);
  return `M${x(turned[0]?.bearing_deg ?? 0)} ${y(0)}L${places.join("L")}V${y(0)}Z`;
}
