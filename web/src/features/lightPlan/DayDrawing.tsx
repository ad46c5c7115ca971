import type { DayView } from "../../api/client";
import { signed } from "../../ui/numbers";
import { clockOf, greyOf } from "./dayAxis";

export const RIGHT = 12;
export const BAND_TOP = 22;
const BAND_PX = 46;
const ROW_PX = 40;
const EV_Y = BAND_TOP + BAND_PX + 24;
const SUN_Y = EV_Y + 26;
const MOON_Y = SUN_Y + ROW_PX;
export const LANES_TOP = MOON_Y + ROW_PX + 4;
/** Least width of a mark with its figure. */
const MARK_PX = 44;
const QUARTERS_AN_HOUR = 4;

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
              y1={BAND_TOP + BAND_PX}
              y2={height}
              stroke="var(--line)"
            />
          </g>
        ))}
    </>
  );
}

/** Open ground's EV every few hours, under the strip. */
export function EvRow({ day, x, width }: Drawn) {
  return (
    <g fontSize="12.5" fill="var(--ink)">
      <RowName y={EV_Y} words="EV" />
      {spacedOut(day, width).map((quarter) => (
        <text key={quarter.unix_s} x={x(quarter.unix_s)} y={EV_Y} textAnchor="middle">
          {signed(quarter.ev100["open"] ?? 0, 0).replace("+", "")}
        </text>
      ))}
    </g>
  );
}

/** While a body is up: which way shadows fall, north up, and how high it is. */
export function ShadowRow({ day, x, width, body }: Drawn & { body: "sun" | "moon" }) {
  const y = body === "sun" ? SUN_Y : MOON_Y;
  const up = spacedOut(day, width).filter((quarter) => quarter[`${body}_altitude_deg`] > 0);
  const ink = body === "sun" ? "var(--ink)" : "var(--ink-soft)";
  return (
    <g fontSize="12" fill={ink} stroke="none">
      <RowName y={y + 4} words={body === "sun" ? "Sun" : "Moon"} />
      {up.map((quarter) => (
        <g key={quarter.unix_s}>
          <g
            transform={`translate(${x(quarter.unix_s)} ${y}) rotate(${quarter[`${body}_bearing_deg`] + 180})`}
          >
            <circle
              cy={7}
              r={body === "sun" ? 4 : 3}
              fill={body === "sun" ? ink : "var(--panel)"}
              stroke={ink}
            />
            <path d="M0 3V-9M-3.5 -5 0 -9.5 3.5 -5" fill="none" stroke={ink} strokeWidth="1.6" />
          </g>
          <text x={x(quarter.unix_s)} y={y + 24} textAnchor="middle">
            {Math.round(quarter[`${body}_altitude_deg`])}°
          </text>
        </g>
      ))}
    </g>
  );
}

function RowName({ y, words }: { y: number; words: string }) {
  return (
    <text x={4} y={y} fontSize="12.5" fill="var(--ink-soft)">
      {words}
    </text>
  );
}

/** Full hours with room for a mark at each. */
function spacedOut(day: DayView, width: number) {
  const { quarters } = day.hours;
  const hours = [1, 2, 3, 4, 6].find((each) => (width * each) / 24 > MARK_PX) ?? 6;
  return quarters.filter(
    (_, at) => at > 0 && at < quarters.length - 1 && at % (hours * QUARTERS_AN_HOUR) === 0,
  );
}
