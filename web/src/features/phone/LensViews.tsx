import type { LensPortrait } from "../../api/client";
import { fixed } from "../../ui/numbers";

const WIDTH = 340;
const HEIGHT = 236;

/** What each lens sees of the same view, drawn to scale around its middle. */
export function LensViews({ lenses, chosen }: { lenses: LensPortrait[]; chosen?: string }) {
  const widest = lenses[0];
  if (!widest) return null;
  const half = (degrees: number) => Math.tan((degrees * Math.PI) / 360);
  const scale = Math.min(
    (WIDTH - 8) / 2 / half(widest.hfov_deg),
    (HEIGHT - 8) / 2 / half(widest.vfov_deg),
  );
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full max-w-[24rem]"
      role="img"
      aria-label={lenses
        .map((lens) => `${lens.name} sees ${fixed(lens.hfov_deg, 0)}° across`)
        .join(", ")}
    >
      <Creek />
      {lenses.map((lens) => {
        const x = half(lens.hfov_deg) * scale;
        const y = half(lens.vfov_deg) * scale;
        const is = lens.lens === chosen;
        return (
          <g key={lens.lens}>
            <rect
              x={WIDTH / 2 - x}
              y={HEIGHT / 2 - y}
              width={2 * x}
              height={2 * y}
              fill="none"
              stroke={is ? "var(--accent)" : "var(--ink)"}
              strokeWidth={is ? 3 : 1.5}
            />
            <text
              x={WIDTH / 2 - x + 6}
              y={HEIGHT / 2 - y + 16}
              fontSize="13"
              fill="var(--ink)"
              stroke="var(--panel)"
              strokeWidth="3"
              paintOrder="stroke"
            >
              {lens.name} {fixed(lens.hfov_deg, 0)}°
            </text>
          </g>
        );
      })}
    </svg>
  );
}

/** A view to frame: the far bank, a mast, and its light on the water. */
function Creek() {
  const middle = HEIGHT / 2;
  return (
    <g stroke="var(--line-strong)" fill="none" strokeWidth="1">
      <path d={`M4 ${middle + 12}H${WIDTH - 4}`} />
      <path d={`M4 ${middle + 4}q40 -16 92 -9t88 3 90 -10 62 7`} />
      <path d={`M${WIDTH / 2 + 8} ${middle + 14}v-44M${WIDTH / 2 + 8} ${middle - 28}l14 32h-14`} />
      <path d={`M${WIDTH / 2 - 12} ${middle + 14}q22 12 44 0z`} fill="var(--sunk)" />
      {[26, 40, 58, 80].map((down) => (
        <path key={down} d={`M${60 - down / 2} ${middle + down}h40m60 6h54m30 -8h46`} />
      ))}
    </g>
  );
}
