import type { ExposureMap, Limit } from "../../api/client";
import { type Area, forbiddenRuns } from "./mapModel";

/** Hatches told apart by slope and spacing, so that no limit rests on hue. */
const HATCHES: Record<string, { angle: number; gap: number; width: number }> = {
  hold: { angle: 45, gap: 9, width: 1.3 },
  iso_cap: { angle: 0, gap: 7, width: 1.3 },
  highlights: { angle: -45, gap: 6, width: 1 },
};
const OTHER = { angle: 90, gap: 8, width: 1 };

export function Patterns({ limits }: { limits: Limit[] }) {
  return (
    <defs>
      {limits.map((limit) => {
        const hatch = HATCHES[limit.id] ?? OTHER;
        return (
          <pattern
            key={limit.id}
            id={`hatch-${limit.id}`}
            width={hatch.gap}
            height={hatch.gap}
            patternUnits="userSpaceOnUse"
            patternTransform={`rotate(${hatch.angle})`}
          >
            <line
              x1={0}
              x2={hatch.gap}
              y1={hatch.gap / 2}
              y2={hatch.gap / 2}
              stroke="var(--hatch)"
              strokeWidth={hatch.width}
              opacity={0.55}
            />
          </pattern>
        );
      })}
    </defs>
  );
}

interface Props {
  map: ExposureMap;
  area: Area;
  limit: Limit;
}

/** The part of the map a limit forbids, with the limit's name on it. */
export function LimitShade({ map, area, limit }: Props) {
  const runs = forbiddenRuns(map, area, limit.id);
  if (runs.length === 0) return null;
  const left = Math.min(...runs.map((run) => run.x));
  const right = Math.max(...runs.map((run) => run.x + run.width));
  const top = Math.min(...runs.map((run) => run.y));
  const label = labelPlace(limit, area, { left, right, top });
  const width = limit.name.length * 6.4 + 14;
  return (
    <g>
      <title>{limit.reason}</title>
      {runs.map((run) => (
        <rect key={`${run.x}-${run.y}`} {...run} fill={`url(#hatch-${limit.id})`} />
      ))}
      <g transform={label.transform}>
        <rect
          x={label.anchor === "end" ? -width : 0}
          y={-13}
          width={width}
          height={18}
          rx={2}
          fill="var(--raised)"
          stroke={limit.binding ? "var(--ink)" : "none"}
        />
        <text
          x={label.anchor === "end" ? -7 : 7}
          y={0.5}
          textAnchor={label.anchor}
          fontSize={12.5}
          fontWeight={limit.binding ? 700 : 500}
          fill="var(--ink)"
        >
          {limit.name}
        </text>
      </g>
    </g>
  );
}

function labelPlace(
  limit: Limit,
  area: Area,
  region: { left: number; right: number; top: number },
): { transform: string; anchor: "start" | "end" } {
  if (limit.axis === "shutter_s")
    return {
      transform: `translate(${region.left + 16} ${area.top + 96}) rotate(90)`,
      anchor: "start",
    };
  if (limit.axis === "iso")
    return { transform: `translate(${area.left + 6} ${region.top + 20})`, anchor: "start" };
  return { transform: `translate(${area.right - 8} ${area.bottom - 10})`, anchor: "end" };
}
