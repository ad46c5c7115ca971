import type { Held } from "../../../phone/sensing";

const WIDE = 300;
const HIGH = 120;
const PX_A_DEGREE = 5;
const LEVEL_DEG = 0.5;

/** The frame upright, and in it the horizon as the phone is held: brought to the marks, it is level. */
export function LevelDrawing({ held }: { held: Held }) {
  const down = Math.max(-HIGH / 2, Math.min(HIGH / 2, held.tiltDeg * PX_A_DEGREE));
  const isLevel = Math.abs(held.rollDeg) < LEVEL_DEG;
  return (
    <svg
      viewBox={`${-WIDE / 2} ${-HIGH / 2} ${WIDE} ${HIGH}`}
      className="w-full rounded border border-strong bg-sunk"
      role="img"
      aria-label={isLevel ? "The horizon is level" : "The horizon leans"}
    >
      <g transform={`rotate(${-held.rollDeg}) translate(0 ${down})`}>
        <rect x={-WIDE} y={0} width={2 * WIDE} height={2 * HIGH} fill="var(--line)" />
        <path
          d={`M${-WIDE} 0H${WIDE}`}
          stroke={isLevel ? "var(--accent)" : "var(--ink)"}
          strokeWidth={isLevel ? 5 : 3}
        />
      </g>
      {[-1, 1].map((side) => (
        <path
          key={side}
          d={`M${(side * WIDE) / 2} 0h${-side * 34}`}
          stroke="var(--accent)"
          strokeWidth="4"
        />
      ))}
      <circle r="5" fill="none" stroke="var(--accent)" strokeWidth="3" />
    </svg>
  );
}
