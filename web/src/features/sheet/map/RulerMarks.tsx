import type { ExposureMap as MapData, Limit } from "../../../api/client";
import type { Area, Pair } from "./mapModel";

/** Height of one limit's bar with its name. */
export const ROW = 60;
const BESIDE_PX = 8;

export interface RulerProps {
  map: MapData;
  steps: Pair[];
  area: Area;
  x: (column: number) => number;
}

/** Where one limit forbids the wanted exposure, hatched along the ruler. */
export function Bar({
  map,
  steps,
  limit,
  row,
  area,
  x,
}: RulerProps & { limit: Limit; row: number }) {
  const bit = map.limit_ids.indexOf(limit.id);
  const y = row * ROW + 40;
  const [first, last] = [steps[0], steps[steps.length - 1]];
  if (!first || !last) return null;
  // The dot may be beside the steps of the wanted exposure: nothing is shown there.
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
export function Scale({
  map,
  steps,
  area,
  x,
  open,
  pair,
}: RulerProps & { open: boolean; pair: Pair | null }) {
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
function spaced(steps: Pair[], x: RulerProps["x"]): Pair[] {
  return steps.reduce<Pair[]>((kept, step) => {
    const last = kept[kept.length - 1];
    return last && x(step.column) - x(last.column) < NAME_GAP ? kept : [...kept, step];
  }, []);
}
