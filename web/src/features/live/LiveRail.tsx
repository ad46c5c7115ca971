import type { ToneScale } from "../../api/client";
import { signed } from "../../ui/numbers";

const [WIDTH, HEIGHT, LINE] = [360, 66, 40];

/** Where each spot lands at the slip, in stops from mid: the tone rail, small and live. */
export function LiveRail({ rail }: { rail: ToneScale }) {
  const x = (stops: number) => {
    const within = Math.min(rail.highest_stops, Math.max(rail.lowest_stops, stops));
    return (
      8 + ((within - rail.lowest_stops) / (rail.highest_stops - rail.lowest_stops)) * (WIDTH - 16)
    );
  };
  const words = rail.pins.map((pin) => `${pin.name || pin.id} ${signed(pin.at_planned_stops)}`);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="block w-full"
      role="img"
      aria-label={`Tones at the slip: ${words.join(", ")}`}
    >
      <line x1={8} x2={WIDTH - 8} y1={LINE} y2={LINE} stroke="var(--ink)" strokeWidth={3} />
      <line
        x1={x(rail.white_stops)}
        x2={x(rail.white_stops)}
        y1={LINE - 14}
        y2={LINE + 6}
        stroke="var(--ink)"
        strokeWidth={3}
      />
      {rail.ticks.map((tick) => (
        <text
          key={tick}
          x={x(tick)}
          y={HEIGHT - 6}
          textAnchor="middle"
          fontSize={13}
          fill="var(--ink-soft)"
        >
          {tick === 0 ? "mid" : signed(tick, 0)}
        </text>
      ))}
      {rail.pins.map((pin, place) => (
        <g key={pin.id} fill="var(--accent)">
          <circle cx={x(pin.at_planned_stops)} cy={LINE} r={6} />
          <text
            x={Math.min(WIDTH - 60, Math.max(30, x(pin.at_planned_stops)))}
            y={place % 2 ? 30 : 14}
            textAnchor="middle"
            fontSize={13}
            fill="var(--ink)"
          >
            {`${(pin.name || "spot").slice(0, 14)} ${pin.mark}${signed(pin.at_planned_stops)}`}
          </text>
        </g>
      ))}
    </svg>
  );
}
