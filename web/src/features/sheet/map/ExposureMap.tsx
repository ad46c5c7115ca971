import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from "react";

import type { Answer, ExposureMap as MapData, Plan } from "../../../api/client";
import { ForbiddenShade, Hatches, LimitHatch } from "./LimitHatches";
import { bandOf, LabelStems, MapLabels } from "./MapLabels";
import { Closed } from "./Closed";
import { MapMarks } from "./MapMarks";
import {
  alongPath,
  type Area,
  isShown,
  nearestOnDiagonal,
  type Pair,
  pairInForce,
  pointOf,
  shownOf,
  wordsOf,
  xOf,
  yOf,
} from "./mapModel";
import { MapAxes } from "./MapAxes";
import type { Edit } from "../useSheetEditor";
import { type Size, useSize } from "../useSize";

const LEAVE_PX = 42;

function areaOf(size: Size, map: MapData, plan: Plan): Area {
  const [left, right] = [46, size.width - 14];
  // By the pair that is kept: while the dot is dragged the axes stay.
  const shown = shownOf(map, pairInForce(map));
  const band = bandOf({ left, right, top: 0, bottom: 100, shown }, plan);
  return { left, right, top: band + 4, bottom: size.height - 48, shown };
}

interface Props {
  map: MapData;
  plan: Plan;
  pair: Pair | null;
  planned: Pair | null;
  fields: Answer["fields"];
  edit: Edit;
  onPreview: (pair: Pair) => void;
  onCommit: (pair: Pair | null) => void;
}

/** Shutter across, ISO up, the phone's own steps as the grid; what limits leave of the exposure. */
export function ExposureMap(props: Props) {
  const { map, plan, pair, planned, fields, edit, onPreview, onCommit } = props;
  const [drawing, size] = useSize<SVGSVGElement>({ width: 480, height: 460 });
  const area = areaOf(size, map, plan);
  const dragged = useRef<Pair | null>(null);
  const hasMoved = useRef(false);
  const limits = plan.limits.filter((limit) => limit.owner !== "device");
  const [pointed, setPointed] = useState<string | null>(null);

  const under = (event: PointerEvent): Pair | null => {
    const box = drawing.current?.getBoundingClientRect();
    if (!box) return null;
    const place = { x: event.clientX - box.left, y: event.clientY - box.top };
    const near = nearestOnDiagonal(map, area, place);
    const at = near && pointOf(map, area, near);
    if (near && at && Math.hypot(at.x - place.x, at.y - place.y) < LEAVE_PX) return near;
    return freePair(map, area, place);
  };
  const onMove = (event: PointerEvent) => {
    if (!dragged.current) return;
    const next = under(event);
    const held = dragged.current;
    if (next && (next.row !== held.row || next.column !== held.column)) {
      dragged.current = next;
      hasMoved.current = true;
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
  useWheel(drawing, map, pair, { onPreview, onCommit });
  const dot = pair && pointOf(map, area, pair);
  const ghost = planned && pointOf(map, area, planned);
  const moved = pair && planned && (pair.row !== planned.row || pair.column !== planned.column);
  const said = pair ? spoken(map, pair) : "no slip";

  return (
    <div className="relative h-full">
      <svg
        ref={drawing}
        viewBox={`0 0 ${size.width} ${size.height}`}
        className="block h-full w-full touch-none select-none"
        role="group"
        aria-label="Exposure map: shutter across, ISO up"
      >
        <Hatches limits={limits} />
        <rect
          x={area.left}
          y={area.top}
          width={area.right - area.left}
          height={area.bottom - area.top}
          fill="var(--raised)"
        />
        <clipPath id="map-area">
          <rect
            x={area.left}
            y={area.top}
            width={area.right - area.left}
            height={area.bottom - area.top}
          />
        </clipPath>
        <g clipPath="url(#map-area)">
          <ForbiddenShade {...{ map, area, limits }} />
          {limits
            .filter((limit) => limit.id === pointed)
            .map((limit) => (
              <LimitHatch key={limit.id} {...{ map, area, limit }} />
            ))}
        </g>
        <MapMarks map={map} area={area} plan={plan} />
        <LabelStems area={area} plan={plan} />
        <MapAxes map={map} area={area} pair={pair} />
        <g clipPath="url(#map-area)">
          {map.line && (
            <Stretch area={area} ends={map.line} className="stroke-strong" width={1.5} />
          )}
          {map.open && <Stretch area={area} ends={map.open} className="stroke-accent" width={7} />}
        </g>
        {map.diagonal.map(([row = 0, column = 0]) => {
          if (!isShown(map, area, { row, column })) return null;
          const at = pointOf(map, area, { row, column });
          return <circle key={`${row}-${column}`} cx={at.x} cy={at.y} r={1.7} fill="var(--ink)" />;
        })}
        {moved && ghost && isShown(map, area, planned) && (
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
              hasMoved.current = false;
            }}
            onPointerMove={onMove}
            onPointerUp={() => {
              // A click that moves nothing chooses nothing.
              if (dragged.current && hasMoved.current) onCommit(dragged.current);
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
      <MapLabels {...{ area, plan, fields, edit }} onPoint={setPointed} />
    </div>
  );
}

const WHEEL_IDLE_MS = 350;

/** The wheel moves the dot along the wanted exposure; it is kept once the wheel rests. */
function useWheel(
  drawing: React.RefObject<SVGSVGElement | null>,
  map: MapData,
  pair: Pair | null,
  act: Pick<Props, "onPreview" | "onCommit">,
) {
  const latest = useRef({ map, pair, act });
  useEffect(() => {
    latest.current = { map, pair, act };
  });
  useEffect(() => {
    const element = drawing.current;
    if (!element) return undefined;
    let timer = 0;
    const onWheel = (event: WheelEvent) => {
      const { map: data, pair: from, act: does } = latest.current;
      if (!from || event.ctrlKey) return;
      event.preventDefault();
      const next = alongPath(data, from, event.deltaY + event.deltaX > 0 ? 1 : -1);
      does.onPreview(next);
      window.clearTimeout(timer);
      timer = window.setTimeout(() => does.onCommit(next), WHEEL_IDLE_MS);
    };
    element.addEventListener("wheel", onWheel, { passive: false });
    return () => {
      window.clearTimeout(timer);
      element.removeEventListener("wheel", onWheel);
    };
  }, [drawing]);
}

function Stretch(props: {
  area: Area;
  ends: { shutter_s: number; iso: number }[];
  className: string;
  width: number;
}) {
  const [from, to] = props.ends;
  if (!from || !to) return null;
  return (
    <line
      x1={xOf(props.area, from.shutter_s)}
      y1={yOf(props.area, from.iso)}
      x2={xOf(props.area, to.shutter_s)}
      y2={yOf(props.area, to.iso)}
      className={props.className}
      strokeWidth={props.width}
      strokeLinecap="round"
    />
  );
}

function freePair(map: MapData, area: Area, place: { x: number; y: number }): Pair {
  const column = closest(
    map.shutters.map((step) => xOf(area, step.value_s)),
    place.x,
  );
  const row = closest(
    map.isos.map((step) => yOf(area, step.value)),
    place.y,
  );
  return { row, column };
}

function closest(places: number[], wanted: number): number {
  return places.reduce(
    (best, place, index) =>
      Math.abs(place - wanted) < Math.abs((places[best] ?? 0) - wanted) ? index : best,
    0,
  );
}

function stepFor(key: string, map: MapData, pair: Pair): Pair | null {
  if (key === "ArrowRight") return alongPath(map, pair, 1);
  if (key === "ArrowLeft") return alongPath(map, pair, -1);
  if (key === "ArrowUp") return { ...pair, row: Math.min(map.isos.length - 1, pair.row + 1) };
  if (key === "ArrowDown") return { ...pair, row: Math.max(0, pair.row - 1) };
  return null;
}

function spoken(map: MapData, pair: Pair): string {
  const shutter = map.shutters[pair.column]?.label ?? "";
  return `ISO ${map.isos[pair.row]?.label ?? ""}, ${shutter}, ${wordsOf(map, pair)}`;
}
