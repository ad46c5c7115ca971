import { type KeyboardEvent, type PointerEvent, useRef } from "react";

import type { Answer, ExposureMap as MapData, Limit, Plan } from "../../api/client";
import { shortBy } from "../said";
import { LimitEditor } from "./LimitEditor";
import { Patterns } from "./LimitShade";
import { alongDiagonal, type Area, type Pair, residualOf, wordsOf, xOf } from "./mapModel";
import { OpenNumber } from "./OpenNumber";
import type { Edit } from "./useSheetEditor";
import { useSize } from "./useSize";

const ROW = 60;
const SCALE = 74;
const BESIDE_PX = 8;

interface Props {
  map: MapData;
  plan: Plan;
  pair: Pair | null;
  settings: Answer["settings"];
  edit: Edit;
  onPreview: (pair: Pair) => void;
  onCommit: (pair: Pair | null) => void;
}

/** The map laid out as a ruler along the wanted exposure, for a narrow screen. */
export function ExposureRuler(props: Props) {
  const { map, plan, pair, settings, edit, onPreview, onCommit } = props;
  const [drawing, { width }] = useSize<SVGSVGElement>({ width: 360, height: 200 });
  const dragged = useRef<Pair | null>(null);
  const steps = bestPerShutter(map);
  const limits = plan.limits.filter((limit) => limit.owner !== "device");
  const area: Area = { left: 22, right: width - 22, top: 0, bottom: limits.length * ROW };
  const inSpan = spanned(map, pair ? [...steps, pair] : steps);
  const x = (column: number) => xOf(inSpan, area, map.shutters[column]?.value_s ?? 1);
  const height = area.bottom + SCALE;

  const under = (event: PointerEvent) => {
    const box = drawing.current?.getBoundingClientRect();
    if (!box) return null;
    const at = event.clientX - box.left;
    return steps.reduce<Pair | null>(
      (best, step) =>
        !best || Math.abs(x(step.column) - at) < Math.abs(x(best.column) - at) ? step : best,
      null,
    );
  };
  const move = (event: PointerEvent) => {
    const next = under(event);
    if (!next) return;
    dragged.current = next;
    onPreview(next);
  };
  const onKey = (event: KeyboardEvent) => {
    const way = { ArrowRight: 1, ArrowLeft: -1 }[event.key] as 1 | -1 | undefined;
    if (!pair || !way) return;
    event.preventDefault();
    onCommit(alongDiagonal(map, pair, way));
  };
  const dotX = pair ? Math.max(area.left, Math.min(area.right, x(pair.column))) : null;
  return (
    <div className="relative">
      <svg
        ref={drawing}
        viewBox={`0 0 ${width} ${height}`}
        height={height}
        className="block w-full touch-pan-y select-none"
        role="group"
        aria-label="Exposure ruler: shutter across, ISO under it"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          move(event);
        }}
        onPointerMove={(event) => dragged.current && move(event)}
        onPointerUp={() => {
          if (dragged.current) onCommit(dragged.current);
          dragged.current = null;
        }}
      >
        <Patterns limits={limits} />
        {limits.map((limit, row) => (
          <Bar key={limit.id} {...{ map, steps, limit, row, area, x }} />
        ))}
        <Scale {...{ map, steps, area, x, pair, open: plan.window !== null }} />
        {dotX !== null && pair && (
          <g
            role="slider"
            tabIndex={0}
            aria-label="Slip on the ruler"
            aria-valuemin={0}
            aria-valuemax={map.shutters.length - 1}
            aria-valuenow={pair.column}
            aria-valuetext={`ISO ${map.isos[pair.row]?.label}, ${map.shutters[pair.column]?.label}, ${wordsOf(map, pair)}`}
            onKeyDown={onKey}
          >
            <line
              x1={dotX}
              x2={dotX}
              y1={0}
              y2={area.bottom + 18}
              stroke="var(--accent)"
              strokeWidth={2}
            />
            <circle cx={dotX} cy={area.bottom + 18} r={22} fill="transparent" />
            <circle
              cx={dotX}
              cy={area.bottom + 18}
              r={12}
              fill="var(--accent)"
              stroke="var(--raised)"
              strokeWidth={3}
            />
          </g>
        )}
      </svg>
      {limits.map((limit, row) => {
        const fields = settings[limit.id];
        return (
          <div key={limit.id} className="absolute left-1" style={{ top: row * ROW }}>
            <OpenNumber
              computation={limit.computation}
              inputs={limit.inputs}
              title={limit.name}
              sentence={limit.reason}
              source={limit.source}
              className={`px-1 text-[0.88rem] ${limit.binding ? "font-bold" : ""}`}
              more={fields && <LimitEditor settings={fields} edit={edit} />}
            >
              {limit.name}
            </OpenNumber>
          </div>
        );
      })}
      {plan.conflict && (
        <p className="bg-ink px-2 py-1 text-[0.9rem] text-raised">
          Nothing open{shortBy(plan.conflict.short_by_stops)}
        </p>
      )}
    </div>
  );
}

interface Drawn {
  map: MapData;
  steps: Pair[];
  area: Area;
  x: (column: number) => number;
}

/** Where one limit forbids the wanted exposure, hatched along the ruler. */
function Bar({ map, steps, limit, row, area, x }: Drawn & { limit: Limit; row: number }) {
  const bit = map.limit_ids.indexOf(limit.id);
  const y = row * ROW + 40;
  const [first, last] = [steps[0], steps[steps.length - 1]];
  if (!first || !last) return null;
  // The dot may stand beside the steps of the wanted exposure: nothing is said of it there.
  const from = Math.max(area.left, x(first.column) - BESIDE_PX);
  const to = Math.min(area.right, x(last.column) + BESIDE_PX);
  return (
    <g>
      <rect
        x={from}
        y={y}
        width={to - from}
        height={14}
        fill="var(--accent-soft)"
        stroke="var(--line-strong)"
      />
      {steps.map((step, index) => {
        const broken = ((map.broken[step.row]?.[step.column] ?? 0) >> bit) & 1;
        if (!broken) return null;
        const before = steps[index - 1];
        const after = steps[index + 1];
        const left = before ? (x(before.column) + x(step.column)) / 2 : from;
        const right = after ? (x(after.column) + x(step.column)) / 2 : to;
        return (
          <g key={step.column}>
            <rect x={left} y={y} width={right - left} height={14} fill="var(--raised)" />
            <rect
              x={left}
              y={y}
              width={right - left}
              height={14}
              fill={`url(#hatch-${limit.id})`}
            />
          </g>
        );
      })}
    </g>
  );
}

/** The phone's steps along the ruler, shutter above ISO, and the pair in force in bold. */
function Scale({ map, steps, area, x, open, pair }: Drawn & { open: boolean; pair: Pair | null }) {
  const y = area.bottom + 18;
  const clear = steps.filter(
    (step) => !pair || Math.abs(x(step.column) - x(pair.column)) >= NAME_GAP,
  );
  const named = [...spaced(clear, x), ...(pair ? [pair] : [])].sort((a, b) => a.column - b.column);
  const free = steps.filter((step) => map.broken[step.row]?.[step.column] === 0);
  const [first, end] = [free[0], free[free.length - 1]];
  return (
    <g fontSize={12} textAnchor="middle" fill="var(--ink)">
      <line
        x1={area.left}
        x2={area.right}
        y1={y}
        y2={y}
        stroke="var(--line-strong)"
        strokeWidth={2}
      />
      {open && first && end && (
        <line
          x1={x(first.column)}
          x2={x(end.column)}
          y1={y}
          y2={y}
          stroke="var(--accent)"
          strokeWidth={8}
          strokeLinecap="round"
        />
      )}
      {steps.map((step) => (
        <line
          key={step.column}
          x1={x(step.column)}
          x2={x(step.column)}
          y1={y - 4}
          y2={y + 4}
          stroke="var(--ink)"
        />
      ))}
      {named.map((step, index) => (
        <StepName
          key={step.column}
          {...{ map, area, step, y }}
          at={x(step.column)}
          first={index === 0}
          inForce={step === pair}
        />
      ))}
    </g>
  );
}

interface StepNameProps {
  map: MapData;
  area: Area;
  step: Pair;
  at: number;
  y: number;
  /** The first says what the lower row is. */
  first: boolean;
  inForce: boolean;
}

/** Shutter and ISO of a step under the ruler; at its edges they start or end there. */
function StepName({ map, area, step, at, y, first, inForce }: StepNameProps) {
  const place =
    at < area.left + 30
      ? { x: area.left - 18, textAnchor: "start" as const }
      : at > area.right - 24
        ? { x: area.right + 18, textAnchor: "end" as const }
        : { x: at };
  const iso = map.isos[step.row]?.label;
  return (
    <g fontWeight={inForce ? 700 : undefined}>
      <text {...place} y={y + 28}>
        {map.shutters[step.column]?.label.replace(" s", "")}
      </text>
      <text {...place} y={y + 46} fill={inForce ? "var(--ink)" : "var(--ink-soft)"}>
        {first ? `ISO ${iso}` : iso}
      </text>
    </g>
  );
}

const NAME_GAP = 60;

/** Steps far enough apart to be named. */
function spaced(steps: Pair[], x: Drawn["x"]): Pair[] {
  return steps.reduce<Pair[]>((kept, step) => {
    const last = kept[kept.length - 1];
    return last && x(step.column) - x(last.column) < NAME_GAP ? kept : [...kept, step];
  }, []);
}

/** For each shutter on the wanted exposure the ISO nearest to it, shortest shutter first. */
function bestPerShutter(map: MapData): Pair[] {
  const best = new Map<number, Pair>();
  for (const [row = 0, column = 0] of map.diagonal) {
    const pair = { row, column };
    const known = best.get(column);
    if (!known || Math.abs(residualOf(map, pair)) < Math.abs(residualOf(map, known)))
      best.set(column, pair);
  }
  return [...best.values()].sort((a, b) => a.column - b.column);
}

/** The map with its shutters cut to those of some pairs, so that they fill the ruler. */
function spanned(map: MapData, pairs: Pair[]): MapData {
  if (pairs.length === 0) return map;
  const columns = pairs.map((pair) => pair.column);
  return {
    ...map,
    shutters: map.shutters.slice(Math.min(...columns), Math.max(...columns) + 1),
  };
}
