import type { DayView } from "../../api/client";
import { clockOf, greyOf } from "./dayAxis";

export const LEFT = 44;
export const RIGHT = 12;
export const BAND_TOP = 22;
export const BAND_PX = 46;
export const CURVE_TOP = BAND_TOP + BAND_PX + 12;
const CURVE_PX = 120;
const SKY_TOP = CURVE_TOP + CURVE_PX + 14;
const SKY_PX = 96;
export const LANES_TOP = SKY_TOP + SKY_PX + 10;
const EV_TOP = 16;
const EV_LOW = -12;
export const DASHES: Record<string, string> = {
  open: "",
  away: "7 3",
  towards: "2 3",
  shade: "9 3 2 3",
};

interface Drawn {
  day: DayView;
  x: (unix: number) => number;
  width: number;
}

/** How bright the day is, as a band of greys with its named moments. */
export function Band({ day, x }: Drawn) {
  const { quarters, moments } = day.hours;
  return (
    <>
      {quarters.slice(0, -1).map((quarter, at) => {
        const next = quarters[at + 1] ?? quarter;
        const ev = ((quarter.ev100["open"] ?? 0) + (next.ev100["open"] ?? 0)) / 2;
        return (
          <rect
            key={quarter.unix_s}
            x={x(quarter.unix_s)}
            y={BAND_TOP}
            width={x(next.unix_s) - x(quarter.unix_s) + 0.6}
            height={BAND_PX}
            fill={greyOf(ev)}
          />
        );
      })}
      {moments.map((moment) => (
        <line
          key={`${moment.unix_s}${moment.words}`}
          x1={x(moment.unix_s)}
          x2={x(moment.unix_s)}
          y1={BAND_TOP + BAND_PX - 9}
          y2={BAND_TOP + BAND_PX + 5}
          stroke="var(--ink)"
          strokeWidth="1.5"
        />
      ))}
    </>
  );
}

/** The hours, over everything, with a line down for each. */
export function HourLines({ day, x, width, height }: Drawn & { height: number }) {
  return (
    <>
      {day.hours.quarters
        .filter((_, at) => at % (width > 640 ? 8 : 16) === 0)
        .map((quarter) => (
          <g key={quarter.at}>
            <text
              x={x(quarter.unix_s)}
              y={15}
              fontSize="12.5"
              textAnchor="middle"
              fill="var(--ink-soft)"
            >
              {Number(clockOf(quarter.at).slice(0, 2))}
            </text>
            <line
              x1={x(quarter.unix_s)}
              x2={x(quarter.unix_s)}
              y1={CURVE_TOP}
              y2={height}
              stroke="var(--line)"
            />
          </g>
        ))}
    </>
  );
}

/** EV against the hour for each thing faced, and how far open ground may be off. */
export function Curves({ day, x }: Drawn) {
  const { quarters, plus_minus_stops: doubt } = day.hours;
  const y = (value: number) =>
    CURVE_TOP +
    (CURVE_PX * (EV_TOP - Math.max(EV_LOW, Math.min(EV_TOP, value)))) / (EV_TOP - EV_LOW);
  const curve = (facing: string, off = 0) =>
    quarters.map((quarter) => `${x(quarter.unix_s)},${y((quarter.ev100[facing] ?? 0) + off)}`);
  return (
    <>
      {[15, 10, 5, 0, -5, -10].map((value) => (
        <text
          key={value}
          x={LEFT - 6}
          y={y(value) + 4}
          fontSize="12"
          textAnchor="end"
          fill="var(--ink-soft)"
        >
          {value < 0 ? `−${-value}` : value}
        </text>
      ))}
      <text x={4} y={CURVE_TOP + 4} fontSize="12" fill="var(--ink-soft)">
        EV
      </text>
      <polygon
        points={[...curve("open", doubt), ...curve("open", -doubt).reverse()].join(" ")}
        fill="var(--sunk)"
      />
      {Object.keys(day.facings).map((facing) => (
        <polyline
          key={facing}
          points={curve(facing).join(" ")}
          fill="none"
          stroke={facing === "open" ? "var(--accent)" : "var(--ink)"}
          strokeWidth={facing === "open" ? 2.5 : 1.4}
          strokeDasharray={DASHES[facing]}
        />
      ))}
    </>
  );
}

/** How high Sun and Moon stand over the level horizon. */
export function Heights({ day, x, width }: Drawn) {
  const { quarters } = day.hours;
  const y = (deg: number) => SKY_TOP + SKY_PX / 2 - (SKY_PX / 2) * (deg / 90);
  const heightsOf = (body: "sun" | "moon") =>
    quarters.map((quarter) => quarter[`${body}_altitude_deg`]);
  const topOf = (body: "sun" | "moon") => heightsOf(body).indexOf(Math.max(...heightsOf(body)));
  // About new Moon it goes with the Sun: its name then stands under both.
  const together = Math.abs(topOf("sun") - topOf("moon")) < 8;
  return (
    <>
      <line x1={LEFT} x2={width - RIGHT} y1={y(0)} y2={y(0)} stroke="var(--line-strong)" />
      {[
        { deg: 0, text: "level" },
        { deg: 80, text: "up" },
      ].map(({ deg, text }) => (
        <text
          key={text}
          x={LEFT - 6}
          y={y(deg) + 4}
          fontSize="12"
          textAnchor="end"
          fill="var(--ink-soft)"
        >
          {text}
        </text>
      ))}
      {(["sun", "moon"] as const).map((body) => {
        const heights = heightsOf(body);
        const top = topOf(body);
        const under = body === "moon" && together;
        const level = under
          ? Math.min(heights[top] ?? 0, heightsOf("sun")[top] ?? 0)
          : heights[top];
        return (
          <g key={body}>
            <polyline
              points={quarters
                .map((quarter, at) => `${x(quarter.unix_s)},${y(heights[at] ?? 0)}`)
                .join(" ")}
              fill="none"
              stroke={body === "sun" ? "var(--ink)" : "var(--ink-soft)"}
              strokeWidth={body === "sun" ? 2 : 1.6}
              strokeDasharray={body === "sun" ? "" : "5 4"}
            />
            <text
              x={x(quarters[top]?.unix_s ?? 0)}
              y={y(level ?? 0) + (under ? 16 : -6)}
              fontSize="12.5"
              textAnchor={top < 8 ? "start" : top > 88 ? "end" : "middle"}
              stroke="var(--panel)"
              strokeWidth="3"
              paintOrder="stroke"
              fill={body === "sun" ? "var(--ink)" : "var(--ink-soft)"}
            >
              {body === "sun" ? "Sun" : "Moon"}
            </text>
          </g>
        );
      })}
    </>
  );
}
