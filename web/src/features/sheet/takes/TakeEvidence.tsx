import type { TakeChecked } from "../../../api/client";
import { fixed, signed } from "../../../ui/numbers";

const CELLS = 32;

/** What was measured in a take, drawn at its places: spots, white areas, the sky's edge, the blur. */
export function TakeEvidence({ found, aspect }: { found: TakeChecked; aspect: number }) {
  const { white_at, sky, spots, blur } = found;
  const half = 50 / CELLS;
  const first = spots[0];
  return (
    <div className="pointer-events-none absolute inset-0" aria-hidden="true">
      <svg
        viewBox="0 0 100 100"
        preserveAspectRatio="none"
        className="absolute inset-0 h-full w-full"
      >
        <defs>
          <pattern id="lost" width="1.6" height="1.6" patternUnits="userSpaceOnUse">
            <path d="M0 1.6 1.6 0" stroke="#111" strokeWidth="0.35" />
          </pattern>
        </defs>
        {white_at.map(([x, y]) => (
          <rect
            key={`${x} ${y}`}
            x={100 * x - half}
            y={100 * y - half * aspect}
            width={2 * half}
            height={2 * half * aspect}
            fill="url(#lost)"
          />
        ))}
        {sky && (
          <path
            d={skyPath(sky, aspect)}
            stroke="#fff"
            strokeWidth="2"
            strokeDasharray="6 4"
            vectorEffect="non-scaling-stroke"
            fill="none"
            style={{ filter: "drop-shadow(0 0 1px #000)" }}
          />
        )}
      </svg>
      {sky && <Name words="sky edge" x={0.01} y={sky.height_share} />}
      {white_at[0] && <Name words="clipped" x={white_at[0][0]} y={white_at[0][1]} />}
      {spots.map((spot) => (
        <span
          key={spot.name}
          className="absolute flex -translate-x-2 -translate-y-2 items-center gap-1 whitespace-nowrap"
          style={{ left: `${100 * spot.x}%`, top: `${100 * spot.y}%` }}
        >
          <span className="block h-4 w-4 rounded-full border-2 border-white shadow-[0_0_0_1.5px_#111]" />
          <span className="rounded-xs bg-[#111]/75 px-1 text-[0.75rem] leading-tight text-white">
            {spot.name} {spot.lost ? "clipped" : signed(spot.seen_stops)}
          </span>
        </span>
      ))}
      {first && blur && blur.kind !== "none" && (
        <Name words={`blur ${fixed(blur.px, 1)} px`} x={first.x} y={first.y + 0.05} />
      )}
      {first && blur && blur.kind !== "none" && blur.angle_deg !== null && (
        <span
          className="absolute h-0 w-16 border-t-3 border-dotted border-white [filter:drop-shadow(0_0_1px_#000)]"
          style={{
            left: `${100 * first.x}%`,
            top: `${100 * first.y}%`,
            transform: `translate(-50%, 0) rotate(${blur.angle_deg}deg)`,
          }}
        />
      )}
    </div>
  );
}

/** The name of something drawn, beside it. */
function Name({ words, x, y }: { words: string; x: number; y: number }) {
  return (
    <span
      className="absolute rounded-xs bg-[#111]/75 px-1 text-[0.75rem] leading-tight whitespace-nowrap text-white"
      style={{ left: `${100 * x}%`, top: `${100 * y}%` }}
    >
      {words}
    </span>
  );
}

/** The sky's edge across the frame; its slope is of the picture, not of the stretched drawing. */
function skyPath(sky: NonNullable<TakeChecked["sky"]>, aspect: number): string {
  const rise = 50 * Math.tan((sky.tilt_deg * Math.PI) / 180) * aspect;
  const at = 100 * sky.height_share;
  return `M0 ${at - rise} L100 ${at + rise}`;
}
