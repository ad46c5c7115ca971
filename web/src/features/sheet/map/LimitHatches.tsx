import type { ExposureMap, Limit } from "../../../api/client";
import { type Area, forbiddenRuns } from "./mapModel";

/** Hatches that differ by slope, spacing and weight, so that no limit rests on hue. */
const HATCHES: Record<string, { angle: number; gap: number; width: number }> = {
  hold: { angle: 45, gap: 9, width: 1.3 },
  freeze: { angle: 60, gap: 6, width: 1.1 },
  show: { angle: 90, gap: 7, width: 1.2 },
  flicker: { angle: -20, gap: 16, width: 0.6 },
  iso_cap: { angle: 0, gap: 7, width: 1.3 },
  iso_fixed: { angle: 0, gap: 5, width: 0.9 },
  noise: { angle: 0, gap: 9, width: 1 },
  noise_dark: { angle: 14, gap: 7, width: 0.8 },
  highlights: { angle: -45, gap: 6, width: 1 },
  tone: { angle: -60, gap: 7, width: 1 },
  subject_white: { angle: -30, gap: 6, width: 1.2 },
  stars: { angle: 75, gap: 8, width: 1 },
  drawing: { angle: 90, gap: 9, width: 1.1 },
};
const OTHER = { angle: 30, gap: 8, width: 1 };

export function Hatches({ limits }: { limits: Limit[] }) {
  return (
    <defs>
      {limits.map((limit) => {
        const hatch = HATCHES[limit.kind] ?? OTHER;
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
              opacity={0.34}
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
}

/** What any of the limits forbids, in one flat tone. */
export function ForbiddenShade({ map, area, limits }: Props & { limits: Limit[] }) {
  const ids = limits.map((limit) => limit.id);
  return <Runs {...{ map, area, ids }} fill="var(--forbidden)" />;
}

/** What one limit forbids, hatched while it is pointed at. */
export function LimitHatch({ map, area, limit }: Props & { limit: Limit }) {
  return <Runs {...{ map, area }} ids={[limit.id]} fill={`url(#hatch-${limit.id})`} />;
}

function Runs({ map, area, ids, fill }: Props & { ids: string[]; fill: string }) {
  return (
    <g shapeRendering="crispEdges">
      {forbiddenRuns(map, area, ids).map((run) => (
        <rect key={`${run.x}-${run.y}`} {...run} fill={fill} />
      ))}
    </g>
  );
}
