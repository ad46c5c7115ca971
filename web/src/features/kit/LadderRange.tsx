const WIDTH = 420;
const [LEFT, RIGHT] = [58, WIDTH - 10];
const RANGES = { shutter: [1 / 16000, 60], iso: [25, 25600] } as const;
const TICKS = {
  shutter: [1 / 8000, 1 / 1000, 1 / 125, 1 / 15, 0.5, 4, 30],
  iso: [50, 200, 800, 3200, 12800],
} as const;
const TITLES = { shutter: "Shutter, s", iso: "ISO" } as const;

interface Props {
  kind: "shutter" | "iso";
  manual: number[];
  auto: number[];
}

/** The steps one can dial by hand, each a stroke, over the range auto uses. */
export function LadderRange({ kind, manual, auto }: Props) {
  const [low, high] = RANGES[kind];
  const x = (value: number) =>
    LEFT + (Math.log(value / low) / Math.log(high / low)) * (RIGHT - LEFT);
  const ends = (steps: number[]) =>
    [x(steps[0] ?? low), x(steps[steps.length - 1] ?? high)] as const;
  const [autoFrom, autoTo] = ends(auto);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} 74`}
      className="block w-full"
      role="img"
      aria-label={`${TITLES[kind]}: manual ${say(kind, manual[0])} to ${say(kind, manual[manual.length - 1])} in ${manual.length} steps; auto ${say(kind, auto[0])} to ${say(kind, auto[auto.length - 1])}`}
    >
      <g fontSize={12.5} fill="var(--ink)">
        <text x={LEFT} y={11} fontWeight={650}>
          {TITLES[kind]}
        </text>
        <text x={0} y={30}>
          manual
        </text>
        <text x={0} y={49}>
          auto
        </text>
        {TICKS[kind].map((tick) => (
          <g key={tick}>
            <line x1={x(tick)} x2={x(tick)} y1={18} y2={56} stroke="var(--line)" />
            <text x={x(tick)} y={70} textAnchor="middle" fontSize={11.5} fill="var(--ink-soft)">
              {say(kind, tick)}
            </text>
          </g>
        ))}
      </g>
      {manual.map((step) => (
        <line
          key={step}
          x1={x(step)}
          x2={x(step)}
          y1={19}
          y2={33}
          stroke="var(--accent)"
          strokeWidth={2.2}
        />
      ))}
      <rect
        x={autoFrom}
        y={41}
        width={autoTo - autoFrom}
        height={9}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.5}
      />
    </svg>
  );
}

function say(kind: "shutter" | "iso", value: number | undefined): string {
  if (value === undefined) return "";
  if (kind === "iso") return String(value);
  return value < 0.29 ? `1/${Math.round(1 / value)}` : String(value);
}
