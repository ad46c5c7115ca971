import type { ExposureMap } from "../../../api/client";
import { type Area, type Pair, xOf, yOf } from "./mapModel";

const LABEL_GAP_X = 56;
const LABEL_GAP_Y = 19;
/** Below the ladder's foot, clear of the dot when it is there. */
const VALUE_DROP = 25;

interface Props {
  map: ExposureMap;
  area: Area;
  pair: Pair | null;
}

/** The phone's real steps as grid lines, labelled where there is room, and the pair's own values. */
export function MapAxes({ map, area, pair }: Props) {
  const columns = map.shutters
    .map((step) => ({ ...step, at: xOf(area, step.value_s) }))
    .filter(({ at }) => at >= area.left - 1 && at <= area.right + 1);
  const rows = map.isos
    .map((step) => ({ ...step, at: yOf(area, step.value) }))
    .filter(({ at }) => at >= area.top - 1 && at <= area.bottom + 1);
  // The first label keeps clear of the ISO labels beside it.
  const labels = columns.map((step) => ({
    ...step,
    at: Math.min(Math.max(step.at, area.left + 14), area.right - 6),
  }));
  const valueS = pair && map.shutters[pair.column]?.value_s;
  const iso = pair && map.isos[pair.row]?.value;
  const column = columns.find((step) => step.value_s === valueS);
  const row = rows.find((step) => step.value === iso);
  const middle = (area.left + area.right) / 2;
  return (
    <g fontSize={12.5} fill="var(--ink)">
      {columns.map((step) => (
        <line
          key={step.value_s}
          x1={step.at}
          x2={step.at}
          y1={area.bottom}
          y2={area.bottom + 5}
          stroke="var(--line-strong)"
        />
      ))}
      {rows.map((step) => (
        <line
          key={step.value}
          x1={area.left - 4}
          x2={area.left}
          y1={step.at}
          y2={step.at}
          stroke="var(--line-strong)"
        />
      ))}
      {spaced(labels, LABEL_GAP_X, column?.at).map((step) => (
        <text key={step.value_s} x={step.at} y={area.bottom + VALUE_DROP} textAnchor="middle">
          {step.label.replace(" s", "")}
        </text>
      ))}
      {spaced(rows, LABEL_GAP_Y, row?.at).map((step) => (
        <text key={step.value} x={area.left - 8} y={step.at + 4} textAnchor="end">
          {step.label}
        </text>
      ))}
      <rect
        x={area.left}
        y={area.top}
        width={area.right - area.left}
        height={area.bottom - area.top}
        fill="none"
        stroke="var(--line-strong)"
      />
      {column && row && (
        <g stroke="var(--ink)" strokeDasharray="2 4">
          <line x1={column.at} x2={column.at} y1={row.at} y2={area.bottom} />
          <line x1={area.left} x2={column.at} y1={row.at} y2={row.at} />
        </g>
      )}
      {column && row && (
        <g fontWeight={700}>
          <text x={column.at} y={area.bottom + VALUE_DROP} textAnchor="middle">
            {column.label.replace(" s", "")}
          </text>
          <text x={area.left - 8} y={row.at + 4} textAnchor="end">
            {row.label}
          </text>
        </g>
      )}
      <text x={middle} y={area.bottom + 42} textAnchor="middle" fill="var(--ink-soft)">
        shutter, s
      </text>
      <text x={area.left - 8} y={area.top - 10} textAnchor="end" fill="var(--ink-soft)">
        ISO
      </text>
    </g>
  );
}

/** Steps far enough apart to be labelled, keeping clear of one place. */
function spaced<T extends { at: number }>(steps: T[], gap: number, clear?: number): T[] {
  const kept: T[] = [];
  for (const step of steps) {
    const last = kept[kept.length - 1];
    const room = !last || Math.abs(step.at - last.at) >= gap;
    if (room && (clear === undefined || Math.abs(step.at - clear) >= gap * 0.92)) kept.push(step);
  }
  return kept;
}
