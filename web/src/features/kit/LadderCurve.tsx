import type { LadderFound } from "../../api/client";

const WIDTH = 360;
const HEIGHT = 150;
const LEFT = 14;
const BOTTOM = 26;

/** Sharpness over the slider, and where it is highest with its doubt. */
export function LadderCurve({ found }: { found: LadderFound }) {
  const { samples } = found;
  const low = samples[0]?.value ?? 0;
  const high = samples[samples.length - 1]?.value ?? 1;
  const x = (value: number) => LEFT + ((value - low) / (high - low)) * (WIDTH - 2 * LEFT);
  const y = (share: number) => HEIGHT - BOTTOM - share * (HEIGHT - BOTTOM - 14);
  const at = found.value;
  const doubt = found.plus_minus ?? 0;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full"
      role="img"
      aria-label="Sharpness over the slider"
    >
      {at !== null && (
        <rect
          x={x(Math.max(low, at - doubt))}
          y={6}
          width={Math.max(2, x(Math.min(high, at + doubt)) - x(Math.max(low, at - doubt)))}
          height={HEIGHT - BOTTOM - 6}
          fill="var(--accent-soft)"
          stroke="var(--accent)"
        />
      )}
      <path
        d={`M${samples.map((sample) => `${x(sample.value)} ${y(sample.share)}`).join("L")}`}
        fill="none"
        stroke="var(--line-strong)"
        strokeWidth="1.5"
      />
      {samples.map((sample) => (
        <g key={sample.value}>
          <path
            d={`M${x(sample.value)} ${HEIGHT - BOTTOM}V${y(sample.share)}`}
            stroke="var(--line)"
          />
          <circle cx={x(sample.value)} cy={y(sample.share)} r="4.5" fill="var(--ink)" />
        </g>
      ))}
      <path d={`M${LEFT} ${HEIGHT - BOTTOM}H${WIDTH - LEFT}`} stroke="var(--line-strong)" />
      <text x={LEFT} y={HEIGHT - 8} fontSize="13" fill="var(--ink-soft)">
        {low}
      </text>
      <text x={WIDTH / 2} y={HEIGHT - 8} fontSize="13" textAnchor="middle" fill="var(--ink-soft)">
        slider
      </text>
      <text x={WIDTH - LEFT} y={HEIGHT - 8} fontSize="13" textAnchor="end" fill="var(--ink-soft)">
        {high}
      </text>
    </svg>
  );
}
