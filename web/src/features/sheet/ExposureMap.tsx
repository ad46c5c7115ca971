import { type KeyboardEvent, type PointerEvent, useRef } from "react";

import type { ExposureMap as MapData, Limit, Plan } from "../../api/client";
import { LimitShade, Patterns } from "./LimitShade";
import {
  alongDiagonal,
  type Area,
  nearestOnDiagonal,
  type Pair,
  pairAt,
  placeOf,
  wordsOf,
  xOf,
  yOf,
} from "./mapModel";
import { MapAxes } from "./MapAxes";
import { type Size, useSize } from "./useSize";

const LEAVE_PX = 42;

const areaOf = (size: Size): Area => ({
  left: 46,
  top: 26,
  right: size.width - 14,
  bottom: size.height - 40,
});

interface Props {
  map: MapData;
  plan: Plan;
  pair: Pair | null;
  planned: Pair | null;
  onPreview: (pair: Pair) => void;
  onCommit: (pair: Pair | null) => void;
}

/** Shutter across, ISO up, the phone's own steps as the grid; what limits leave of the exposure. */
export function ExposureMap({ map, plan, pair, planned, onPreview, onCommit }: Props) {
  const [drawing, size] = useSize<SVGSVGElement>({ width: 480, height: 460 });
  const area = areaOf(size);
  const dragged = useRef<Pair | null>(null);
  const limits = plan.limits.filter((limit) => limit.owner !== "device");

  const under = (event: PointerEvent): Pair | null => {
    const box = drawing.current?.getBoundingClientRect();
    if (!box) return null;
    const place = { x: event.clientX - box.left, y: event.clientY - box.top };
    const near = nearestOnDiagonal(map, area, place);
    const at = near && placeOf(map, area, near);
    if (near && at && Math.hypot(at.x - place.x, at.y - place.y) < LEAVE_PX) return near;
    return freePair(map, area, place);
  };
  const onMove = (event: PointerEvent) => {
    if (!dragged.current) return;
    const next = under(event);
    if (next) {
      dragged.current = next;
      onPreview(next);
    }
  };
  const onKey = (event: KeyboardEvent) => {
    if (event.key === "Home") {
      event.preventDefault();
      onCommit(null);
      return;
    }
    const next = pair && stepFor(event.key, map, pair);
    if (!next) return;
    event.preventDefault();
    onCommit(next);
  };
  const dot = pair && placeOf(map, area, pair);
  const ghost = planned && placeOf(map, area, planned);
  const moved = pair && planned && (pair.row !== planned.row || pair.column !== planned.column);
  const said = pair ? spoken(map, pair) : "no slip";

  return (
    <svg
      ref={drawing}
      viewBox={`0 0 ${size.width} ${size.height}`}
      className="block h-full w-full touch-none select-none"
      role="group"
      aria-label="Exposure map: shutter across, ISO up"
    >
      <Patterns limits={limits} />
      <rect
        x={area.left}
        y={area.top}
        width={area.right - area.left}
        height={area.bottom - area.top}
        fill="var(--raised)"
      />
      {limits.map((limit) => (
        <LimitShade key={limit.id} map={map} area={area} limit={limit} />
      ))}
      <MapAxes map={map} area={area} pair={pair} />
      {map.line && (
        <Stretch map={map} area={area} ends={map.line} className="stroke-strong" width={1.5} />
      )}
      {map.open && (
        <Stretch map={map} area={area} ends={map.open} className="stroke-accent" width={7} />
      )}
      {map.diagonal.map(([row = 0, column = 0]) => {
        const at = placeOf(map, area, { row, column });
        return <circle key={`${row}-${column}`} cx={at.x} cy={at.y} r={1.7} fill="var(--ink)" />;
      })}
      {moved && ghost && (
        <circle
          cx={ghost.x}
          cy={ghost.y}
          r={7}
          fill="none"
          stroke="var(--ink)"
          strokeDasharray="3 2"
        />
      )}
      {dot && (
        <g
          role="slider"
          tabIndex={0}
          aria-label="Slip on the map"
          aria-valuenow={pair.column}
          aria-valuemin={0}
          aria-valuemax={map.shutters.length - 1}
          aria-valuetext={said}
          className="cursor-grab active:cursor-grabbing"
          onKeyDown={onKey}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            dragged.current = pair;
          }}
          onPointerMove={onMove}
          onPointerUp={() => {
            if (dragged.current && dragged.current !== pair) onCommit(dragged.current);
            else if (dragged.current) onCommit(dragged.current);
            dragged.current = null;
          }}
          onDoubleClick={() => onCommit(null)}
        >
          <circle cx={dot.x} cy={dot.y} r={24} fill="transparent" />
          <circle
            cx={dot.x}
            cy={dot.y}
            r={11}
            fill="var(--accent)"
            stroke="var(--raised)"
            strokeWidth={3}
          />
          <circle cx={dot.x} cy={dot.y} r={3} fill="var(--on-accent)" />
        </g>
      )}
      {!map.open && <Closed area={area} limits={plan.limits} plan={plan} />}
    </svg>
  );
}

function Stretch(props: {
  map: MapData;
  area: Area;
  ends: { shutter_s: number; iso: number }[];
  className: string;
  width: number;
}) {
  const [from, to] = props.ends;
  if (!from || !to) return null;
  return (
    <line
      x1={xOf(props.map, props.area, from.shutter_s)}
      y1={yOf(props.map, props.area, from.iso)}
      x2={xOf(props.map, props.area, to.shutter_s)}
      y2={yOf(props.map, props.area, to.iso)}
      className={props.className}
      strokeWidth={props.width}
      strokeLinecap="round"
    />
  );
}

function Closed({ area, plan, limits }: { area: Area; plan: Plan; limits: Limit[] }) {
  const names = plan.conflict?.between.map((id) => limits.find((l) => l.id === id)?.name ?? id);
  if (!names) return null;
  return (
    <g>
      <rect
        x={area.left + 8}
        y={area.bottom - 40}
        width={300}
        height={30}
        rx={3}
        fill="var(--ink)"
      />
      <text
        x={area.left + 18}
        y={area.bottom - 20}
        fontSize={14}
        fontWeight={650}
        fill="var(--raised)"
      >
        No stretch open: {names.join(" × ")}
      </text>
    </g>
  );
}

function freePair(map: MapData, area: Area, place: { x: number; y: number }): Pair {
  const column = closest(
    map.shutters.map((step) => xOf(map, area, step.value_s)),
    place.x,
  );
  const row = closest(
    map.isos.map((step) => yOf(map, area, step.value)),
    place.y,
  );
  return pairAt(map, map.isos[row]?.value ?? 1, map.shutters[column]?.value_s ?? 1);
}

function closest(places: number[], wanted: number): number {
  return places.reduce(
    (best, place, index) =>
      Math.abs(place - wanted) < Math.abs((places[best] ?? 0) - wanted) ? index : best,
    0,
  );
}

function stepFor(key: string, map: MapData, pair: Pair): Pair | null {
  if (key === "ArrowRight") return alongDiagonal(map, pair, 1);
  if (key === "ArrowLeft") return alongDiagonal(map, pair, -1);
  if (key === "ArrowUp") return { ...pair, row: Math.min(map.isos.length - 1, pair.row + 1) };
  if (key === "ArrowDown") return { ...pair, row: Math.max(0, pair.row - 1) };
  return null;
}

function spoken(map: MapData, pair: Pair): string {
  const shutter = map.shutters[pair.column]?.label ?? "";
  return `ISO ${map.isos[pair.row]?.label ?? ""}, ${shutter}, ${wordsOf(map, pair)}`;
}
