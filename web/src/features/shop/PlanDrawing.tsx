import { fixed } from "../../ui/numbers";
import type { SetUp } from "./queries";

const WIDTH = 640;
const HEIGHT = 330;
const PAD = 34;

/** The set-up from above, to scale: background, thing, phone, lamps and how far apart they are. */
export function PlanDrawing({ found, backgroundCm }: { found: SetUp; backgroundCm: number }) {
  const { best, lamps } = found;
  const wide = backgroundCm / 100;
  const front = best.distance_m + found.background_m + found.depth_cm / 100;
  const lampDown = lamps ? lamps.distance_m * Math.SQRT1_2 : 0;
  const across = Math.max(wide, lamps ? 2 * lampDown : 0, 0.3);
  const scale = Math.min(
    (WIDTH - 2 * PAD - 90) / across,
    (HEIGHT - 2 * PAD) / Math.max(front, lampDown),
  );
  const x = (metres: number) => WIDTH / 2 + metres * scale;
  const y = (metres: number) => PAD + metres * scale;
  const thing = {
    top: y(found.background_m),
    height: Math.max((found.depth_cm / 100) * scale, 8),
    width: Math.max((found.width_cm / 100) * scale, 8),
  };
  const phone = y(front);
  const sides = lamps ? (lamps.lamps === 2 ? [-1, 1] : [-1]) : [];
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="img"
      aria-label="The set-up from above, to scale"
      className="w-full rounded border border-line bg-raised"
    >
      <path d={`M${x(-wide / 2)} ${PAD}H${x(wide / 2)}`} stroke="var(--ink)" strokeWidth="5" />
      <text x={x(wide / 2) + 8} y={PAD + 5} fontSize="13" fill="var(--ink-soft)">
        background
      </text>
      <path
        d={`M${WIDTH / 2} ${phone}L${x(-best.view_width_m / 2)} ${thing.top + thing.height}H${x(best.view_width_m / 2)}Z`}
        fill="var(--accent-soft)"
      />
      {sides.map((side) => (
        <g key={side}>
          <path
            d={`M${x(side * lampDown)} ${y(lampDown)}L${WIDTH / 2} ${PAD}`}
            stroke="var(--line-strong)"
            strokeDasharray="5 5"
          />
          <circle cx={x(side * lampDown)} cy={y(lampDown)} r="10" fill="var(--ink)" />
          <text
            x={x(side * lampDown)}
            y={y(lampDown) + 28}
            fontSize="13"
            textAnchor="middle"
            fill="var(--ink)"
          >
            {`lamp, ${fixed(lamps?.distance_m ?? 0, 1)} m`}
          </text>
        </g>
      ))}
      <rect
        x={WIDTH / 2 - thing.width / 2}
        y={thing.top}
        width={thing.width}
        height={thing.height}
        rx="3"
        fill="var(--panel)"
        stroke="var(--ink)"
        strokeWidth="2"
      />
      <text
        x={WIDTH / 2}
        y={thing.width > 44 ? thing.top + thing.height / 2 + 4 : thing.top - 6}
        fontSize="13"
        textAnchor="middle"
        fill="var(--ink)"
      >
        thing
      </text>
      <path d={`M${WIDTH / 2 - 20} ${phone}h40`} stroke="var(--accent)" strokeWidth="7" />
      <text x={WIDTH / 2 + 28} y={phone + 5} fontSize="13" fill="var(--ink)">
        {`phone, ${fixed(100 * best.distance_m, 0)} cm`}
      </text>
    </svg>
  );
}
