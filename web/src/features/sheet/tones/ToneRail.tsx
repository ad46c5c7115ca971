import type { ExposureMap, SpotRole, ToneScale } from "../../../api/client";
import { signed } from "../../../ui/numbers";
import { type Pair, residualOf } from "../map/mapModel";
import { RoleGlyph } from "../frame/RoleGlyph";
import { useSize } from "../useSize";

const [TOP, LANE, BELOW] = [44, 20, 46];
const LEFT = 12;

type Scale = (stops: number) => number;

const scaleTo =
  (tones: ToneScale, right: number): Scale =>
  (stops) => {
    const { lowest_stops: low, highest_stops: high } = tones;
    const clamped = Math.max(low, Math.min(high, stops));
    return LEFT + ((clamped - low) / (high - low)) * (right - LEFT);
  };

interface Pin {
  id: string;
  name: string;
  role: SpotRole;
  stops: number;
  mark: string;
  wanted_stops: number | null;
  darker_stops: number | null;
  brighter_stops: number | null;
}

interface Props {
  tones: ToneScale;
  map: ExposureMap;
  /** None where nothing can be dialled: tones are then as planned, at the lowest ISO. */
  pair: Pair | null;
}

/** Where every reading lands, in stops from mid, between the noise floor and clipping. */
export function ToneRail({ tones, map, pair }: Props) {
  const [drawing, { width }] = useSize<SVGSVGElement>({ width: 460, height: 110 });
  const right = width - 12;
  const xOf = scaleTo(tones, right);
  const { lowest_stops: lowest, highest_stops: highest, white_stops: white } = tones;
  const step = map.isos[pair?.row ?? 0];
  const brighter = pair ? residualOf(map, pair) : 0;
  const pins = tones.pins.map<Pin>((pin) => ({ ...pin, stops: pin.at_planned_stops + brighter }));
  const seats = seatsOf(pins, xOf, width);
  const lineY = TOP + LANE * (1 + Math.max(0, ...seats.map((seat) => seat.lane)));
  const height = lineY + BELOW;
  const clip = step?.headroom_stops ?? highest;
  const floor = step?.floor_stops ?? lowest;
  return (
    <svg
      ref={drawing}
      viewBox={`0 0 ${width} ${height}`}
      height={height}
      className="block w-full"
      role="img"
      aria-label={`Tones: ${pins.map(spokenPin).join(", ")}; clipping at ${signed(clip)}, noise floor at ${signed(floor)}`}
    >
      <defs>
        <linearGradient id="tone-ramp">
          <stop offset="0" stopColor="#050505" />
          <stop offset={(0 - lowest) / (highest - lowest)} stopColor="#767676" />
          <stop offset={(white - lowest) / (highest - lowest)} stopColor="#ffffff" />
          <stop offset="1" stopColor="#ffffff" />
        </linearGradient>
        <pattern
          id="lost"
          width="5"
          height="5"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(-45)"
        >
          <line x1="0" x2="5" y1="2.5" y2="2.5" stroke="var(--hatch)" strokeWidth="1.1" />
        </pattern>
      </defs>
      <rect
        x={LEFT}
        y={lineY - 6}
        width={right - LEFT}
        height={12}
        fill="url(#tone-ramp)"
        stroke="var(--line-strong)"
        style={{ filter: "var(--picture-filter)" }}
      />
      <rect x={xOf(clip)} y={lineY - 13} width={right - xOf(clip)} height={26} fill="url(#lost)" />
      <rect x={LEFT} y={lineY - 13} width={xOf(floor) - LEFT} height={26} fill="url(#lost)" />
      <Edge
        lineY={lineY}
        x={xOf(clip)}
        text={`clips ${signed(clip)}`}
        anchor={xOf(clip) > width - 80 ? "end" : "start"}
      />
      <Edge
        lineY={lineY}
        x={xOf(floor)}
        text={`noise ${signed(floor)}`}
        anchor={floor < lowest + 2 ? "start" : "end"}
      />
      {tones.ticks.map((stop) => (
        <g key={stop} fontSize={12} fill="var(--ink-soft)">
          <line x1={xOf(stop)} x2={xOf(stop)} y1={lineY + 6} y2={lineY + 11} stroke="var(--ink)" />
          <text x={xOf(stop)} y={lineY + 24} textAnchor="middle">
            {stop === 0 ? "mid" : signed(stop, 0)}
          </text>
        </g>
      ))}
      {pins.map((pin) => (
        <Wanted key={pin.id} pin={pin} xOf={xOf} lineY={lineY} />
      ))}
      {pins.map((pin, index) => (
        <Stem
          key={pin.id}
          x={xOf(pin.stops)}
          from={TOP - 30 + (seats[index]?.lane ?? 0) * LANE}
          to={lineY}
        />
      ))}
      {pins.map((pin, index) => (
        <PinMark
          key={pin.id}
          pin={pin}
          x={xOf(pin.stops)}
          seat={seats[index] ?? { lane: 0, toLeft: false }}
        />
      ))}
    </svg>
  );
}

/** Where a spot was wanted, and the gap to where it lands; heavy where the gap is too wide. */
function Wanted({ pin, xOf, lineY }: { pin: Pin; xOf: Scale; lineY: number }) {
  const { wanted_stops: wanted } = pin;
  if (wanted === null) return null;
  const off = pin.stops - wanted;
  const allowed = off < 0 ? pin.darker_stops : pin.brighter_stops;
  if (allowed === null || Math.abs(off) < 0.05) return null;
  const missed = Math.abs(off) > allowed + 0.005;
  const [from, to] = [xOf(wanted), xOf(pin.stops)];
  const y = lineY - 10;
  return (
    <g stroke="var(--ink)" fill="none">
      <line x1={from} x2={to} y1={y} y2={y} strokeWidth={missed ? 3.5 : 1.2} />
      <circle cx={from} cy={y} r={4.5} fill="var(--panel)" strokeWidth={1.8} />
    </g>
  );
}

function Stem({ x, from, to }: { x: number; from: number; to: number }) {
  return (
    <g>
      <line x1={x} x2={x} y1={from + 2} y2={to - 5} stroke="var(--ink)" strokeWidth={1.5} />
      <path d={`M${x - 5} ${to - 13}L${x + 5} ${to - 13}L${x} ${to - 4}Z`} fill="var(--ink)" />
    </g>
  );
}

function PinMark({ pin, x, seat }: { pin: Pin; x: number; seat: Seat }) {
  const y = 14 + seat.lane * LANE;
  const { toLeft } = seat;
  return (
    <g>
      <g transform={`translate(${x} ${y - 4})`} stroke="var(--ink)" fill="none">
        <circle r={7.5} fill="var(--panel)" stroke="none" />
        <RoleGlyph role={pin.role} size={6} />
      </g>
      <text
        x={toLeft ? x - 11 : x + 11}
        y={y}
        fontSize={13}
        textAnchor={toLeft ? "end" : "start"}
        paintOrder="stroke"
        stroke="var(--panel)"
        strokeWidth={4}
        fill="var(--ink)"
      >
        {pin.name} <tspan fontWeight={700}>{pin.mark + signed(pin.stops)}</tspan>
      </text>
    </g>
  );
}

function Edge({
  x,
  text,
  anchor,
  lineY,
}: {
  x: number;
  text: string;
  anchor: "start" | "end";
  lineY: number;
}) {
  return (
    <g>
      <line x1={x} x2={x} y1={lineY - 15} y2={lineY + 15} stroke="var(--ink)" strokeWidth={2.5} />
      <text x={x} y={lineY + 41} fontSize={12.5} textAnchor={anchor} fill="var(--ink)">
        {text}
      </text>
    </g>
  );
}

interface Seat {
  lane: number;
  toLeft: boolean;
}

/** Where each pin's label sits: the first lane, right or left of its pin, where it has room. */
function seatsOf(pins: Pin[], xOf: Scale, width: number): Seat[] {
  const taken: [number, number][][] = [];
  return pins.map((pin) => {
    const x = xOf(pin.stops);
    const length = labelOf(pin).length * 6.8 + 22;
    for (let lane = 0; ; lane += 1) {
      const row = (taken[lane] ??= []);
      for (const toLeft of [false, true]) {
        const span: [number, number] = toLeft ? [x - length, x + 10] : [x - 10, x + length];
        const inside = span[0] >= 0 && span[1] <= width;
        if (inside && !row.some(([from, to]) => span[0] < to && span[1] > from)) {
          row.push(span);
          return { lane, toLeft };
        }
      }
      if (lane > pins.length) return { lane: 0, toLeft: false };
    }
  });
}

function spokenPin(pin: Pin): string {
  const wanted = pin.wanted_stops === null ? "" : `, wanted ${signed(pin.wanted_stops)}`;
  return `${pin.name} ${signed(pin.stops)}${wanted}`;
}

function labelOf(pin: Pin): string {
  return `${pin.name} ${pin.mark}${signed(pin.stops)}`;
}
