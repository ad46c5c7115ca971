import { type KeyboardEvent, type PointerEvent, useRef } from "react";

import type { Answer, ExposureMap as MapData, Plan } from "../../../api/client";
import { LimitEditor } from "../limits/LimitEditor";
import { Hatches } from "./LimitHatches";
import { alongPath, type Area, type Pair, pathOf, type Shown, wordsOf, xOf } from "./mapModel";
import { OpenNumber } from "../limits/OpenNumber";
import { Bar, ROW, Scale } from "./RulerMarks";
import type { Edit } from "../useSheetEditor";
import { useSize } from "../useSize";

const SCALE = 74;

interface Props {
  map: MapData;
  plan: Plan;
  pair: Pair | null;
  fields: Answer["fields"];
  edit: Edit;
  onPreview: (pair: Pair) => void;
  onCommit: (pair: Pair | null) => void;
}

/** The map laid out as a ruler along the wanted exposure, for a narrow screen. */
export function ExposureRuler(props: Props) {
  const { map, plan, pair, fields, edit, onPreview, onCommit } = props;
  const [drawing, { width }] = useSize<SVGSVGElement>({ width: 360, height: 200 });
  const dragged = useRef<Pair | null>(null);
  const steps = pathOf(map);
  const limits = plan.limits.filter((limit) => limit.owner !== "device");
  const area: Area = {
    left: 22,
    right: width - 22,
    top: 0,
    bottom: limits.length * ROW,
    shown: spanned(map, pair ? [...steps, pair] : steps),
  };
  const x = (column: number) => xOf(area, map.shutters[column]?.value_s ?? 1);
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
    onCommit(alongPath(map, pair, way));
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
        <Hatches limits={limits} />
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
        const own = fields[limit.id];
        return (
          <div key={limit.id} className="absolute left-1" style={{ top: row * ROW }}>
            <OpenNumber
              computation={limit.computation}
              inputs={limit.inputs}
              title={limit.name}
              sentence={limit.reason}
              source={limit.source}
              className={`px-1 text-[0.88rem] ${limit.binding ? "font-bold" : ""}`}
              more={own && <LimitEditor fields={own} edit={edit} />}
            >
              {limit.name}
            </OpenNumber>
          </div>
        );
      })}
      {plan.conflict && (
        <p className="bg-ink px-2 py-1 text-[0.9rem] text-raised">No exposure meets every limit</p>
      )}
    </div>
  );
}

/** The map with its shutters cut to those of some pairs, so that they fill the ruler. */
function spanned(map: MapData, pairs: Pair[]): Shown {
  const columns = pairs.map((pair) => pair.column);
  const steps = map.shutters.map((step) => step.value_s);
  const inSpan = columns.length
    ? steps.slice(Math.min(...columns), Math.max(...columns) + 1)
    : steps;
  return { shutterS: [inSpan[0] ?? 1, inSpan[inSpan.length - 1] ?? 1], iso: [1, 1] };
}
