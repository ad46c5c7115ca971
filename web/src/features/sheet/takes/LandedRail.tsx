import type { TakeChecked } from "../../../api/client";
import { signed } from "../../../ui/numbers";
import { useSize } from "../useSize";

type Spot = TakeChecked["spots"][number];
const ROW = 40;
const MARGIN = 12;
const TICKS = [-6, -4, -2, 0, 2];

/** Where each spot was planned to land and where it landed, as an arrow on one scale of tones. */
export function LandedRail({ spots }: { spots: Spot[] }) {
  const [frame, { width }] = useSize<HTMLDivElement>({ width: 380, height: 120 });
  const seen = spots.filter((spot) => !spot.lost);
  const tones = seen.flatMap((spot) => [spot.planned_stops, spot.seen_stops]);
  const [low, high] = [Math.min(-6, ...tones) - 0.5, Math.max(3, ...tones) + 0.5];
  const x = (stops: number) => MARGIN + ((stops - low) / (high - low)) * (width - 2 * MARGIN);
  const bottom = spots.length * ROW + 6;
  return (
    <div ref={frame}>
      <svg
        width={width}
        height={bottom + 22}
        role="img"
        aria-label={spots.map(spoken).join("; ")}
        className="block"
      >
        {TICKS.map((tick) => (
          <g key={tick}>
            <line x1={x(tick)} x2={x(tick)} y1={0} y2={bottom} stroke="var(--line)" />
            <text
              x={x(tick)}
              y={bottom + 15}
              fontSize="12"
              textAnchor="middle"
              fill="var(--ink-soft)"
            >
              {tick === 0 ? "mid" : signed(tick, 0)}
            </text>
          </g>
        ))}
        {spots.map((spot, row) => (
          <Landed key={spot.name} {...{ spot, x }} y={row * ROW + 30} />
        ))}
      </svg>
      <p className="text-[0.85rem] text-soft">Stops from mid: ○ planned, ▸ result</p>
    </div>
  );
}

function Landed({ spot, x, y }: { spot: Spot; x: (stops: number) => number; y: number }) {
  const [from, to] = [x(spot.planned_stops), x(spot.seen_stops)];
  const way = to < from ? -1 : 1;
  return (
    <g>
      <text
        x={MARGIN}
        y={y - 12}
        fontSize="13"
        fill="var(--ink)"
        paintOrder="stroke"
        stroke="var(--panel)"
        strokeWidth={4}
      >
        {spot.name}: <tspan fontWeight={700}>{spot.words}</tspan>
      </text>
      <circle cx={from} cy={y} r={5} fill="none" stroke="var(--ink)" strokeWidth={2} />
      {!spot.lost && (
        <g stroke="var(--accent)" fill="var(--accent)">
          {Math.abs(to - from) > 12 && (
            <line x1={from + way * 6} x2={to - way * 6} y1={y} y2={y} strokeWidth={3} />
          )}
          <path d={`M${to + way * 3} ${y}l${-way * 10} -6v12z`} />
        </g>
      )}
    </g>
  );
}

function spoken(spot: Spot): string {
  const result = spot.lost ? "clipped" : signed(spot.seen_stops);
  return `${spot.name}: planned ${signed(spot.planned_stops)}, result ${result}, ${spot.words}`;
}
