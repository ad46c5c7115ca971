import { useQuery } from "@tanstack/react-query";
import { type PointerEvent, useState } from "react";

import { Button } from "../../ui/Button";
import { useSize } from "../sheet/useSize";
import { coastPath, coastQuery } from "./coast";
import { rounded } from "../../ui/numbers";

const HIGH = 300;
const WIDEST_DEG = 360;
const NARROWEST_DEG = 0.02;
const STEPS = [60, 30, 15, 10, 5, 2, 1, 0.5, 0.2, 0.1, 0.05, 0.02, 0.01, 0.005];

interface Props {
  latitude: number;
  longitude: number;
  /** Somewhere known is seen with its coast about it, nowhere yet with half the world. */
  isKnown: boolean;
  others: { name: string; latitude: number; longitude: number }[];
  onPick: (latitude: number, longitude: number) => void;
}

/** Coasts under a grid of degrees: a click sets the place, buttons come nearer. */
export function PlainMap({ latitude, longitude, isKnown, others, onPick }: Props) {
  const [box, size] = useSize<HTMLDivElement>({ width: 640, height: HIGH });
  const [span, setSpan] = useState(isKnown ? 20 : WIDEST_DEG / 2);
  const wide = Math.min(span, WIDEST_DEG);
  const scale = size.width / wide;
  const x = (east: number) => size.width / 2 + (east - longitude) * scale;
  const y = (north: number) => HIGH / 2 - (north - latitude) * scale;
  const grid = STEPS.find((step) => step * scale < 110) ?? 0.005;
  const { data: rings = [] } = useQuery(coastQuery(span));
  const coast = coastPath(rings, {
    west: longitude - wide / 2,
    east: longitude + wide / 2,
    south: latitude - HIGH / 2 / scale,
    north: latitude + HIGH / 2 / scale,
    x,
    y,
  });
  const lines = (middle: number, reach: number, most: number) => {
    const found: number[] = [];
    for (let at = Math.ceil((middle - reach) / grid); at * grid <= middle + reach; at += 1)
      if (Math.abs(at * grid) <= most) found.push(at * grid);
    return found;
  };
  const pick = (event: PointerEvent<SVGSVGElement>) => {
    const east = longitude + (event.nativeEvent.offsetX - size.width / 2) / scale;
    const north = latitude - (event.nativeEvent.offsetY - HIGH / 2) / scale;
    onPick(asShown(Math.max(-90, Math.min(90, north)), span), asShown(wrapped(east), span));
  };
  return (
    <div>
      <div ref={box} className="overflow-hidden rounded border border-line bg-raised">
        <svg
          width="100%"
          height={HIGH}
          viewBox={`0 0 ${size.width} ${HIGH}`}
          role="img"
          aria-label="Map of the place with coasts and degrees"
          className="block cursor-crosshair"
          onPointerUp={pick}
        >
          <path d={coast} fill="var(--sunk)" stroke="var(--ink-soft)" strokeWidth="0.8" />
          {lines(longitude, wide / 2, 180).map((east) => (
            <g key={`e${east}`}>
              <line x1={x(east)} x2={x(east)} y1={0} y2={HIGH} stroke="var(--line)" />
              <text x={x(east) + 3} y={HIGH - 5} fontSize="12" fill="var(--ink-soft)">
                {degrees(east, "E", "W")}
              </text>
            </g>
          ))}
          {lines(latitude, HIGH / scale / 2, 90).map((north) => (
            <g key={`n${north}`}>
              <line
                x1={0}
                x2={size.width}
                y1={y(north)}
                y2={y(north)}
                stroke={north === 0 ? "var(--line-strong)" : "var(--line)"}
              />
              <text x={4} y={y(north) - 3} fontSize="12" fill="var(--ink-soft)">
                {degrees(north, "N", "S")}
              </text>
            </g>
          ))}
          {others.map((other) => (
            <g key={other.name}>
              <circle cx={x(other.longitude)} cy={y(other.latitude)} r="4" fill="var(--ink-soft)" />
              <text x={x(other.longitude) + 7} y={y(other.latitude) + 4} fontSize="12.5">
                {other.name}
              </text>
            </g>
          ))}
          <path
            d={`M${size.width / 2} ${HIGH / 2}l-7 -16a7.6 7.6 0 1 1 14 0z`}
            fill="var(--accent)"
            stroke="var(--panel)"
            strokeWidth="1.5"
          />
        </svg>
      </div>
      <div className="mt-1.5 flex items-center gap-2">
        <Button onClick={() => setSpan(Math.max(NARROWEST_DEG, span / 3))}>Zoom in</Button>
        <Button onClick={() => setSpan(Math.min(WIDEST_DEG, span * 3))}>Zoom out</Button>
        <p className="text-[0.85rem] text-soft">
          Click to move the place. Coasts are accurate to about 1 km.
        </p>
      </div>
    </div>
  );
}

const wrapped = (east: number) => ((((east + 180) % 360) + 360) % 360) - 180;

/** As fine as the map shows: a click is no better than a pixel or two. */
function asShown(value: number, span: number): number {
  const digits = span > 30 ? 1 : span > 3 ? 2 : span > 0.3 ? 3 : 4;
  return rounded(value, digits);
}

function degrees(value: number, positive: string, negative: string): string {
  const shown = rounded(Math.abs(value), 3);
  return value === 0 ? "0°" : `${shown}° ${value > 0 ? positive : negative}`;
}
