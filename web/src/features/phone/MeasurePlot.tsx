import type { Plot } from "../../api/client";
import { precise } from "../../ui/numbers";

const WIDTH = 420;
const HEIGHT = 232;
const PAD = { left: 52, right: 12, top: 26, bottom: 38 };
const TICKS = 4;

/** A measurement's points and the line through them, with both axes in words. */
export function MeasurePlot({ plot }: { plot: Plot }) {
  const along = scale(
    plot.series.flatMap((series) => series.x),
    plot.x_is_log,
    [PAD.left, WIDTH - PAD.right],
  );
  const up = scale(
    plot.series.flatMap((series) => series.y),
    plot.y_is_log,
    [HEIGHT - PAD.bottom, PAD.top],
  );
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full"
      role="img"
      aria-label={`${plot.y_label} against ${plot.x_label}`}
    >
      <path
        d={`M${PAD.left} ${PAD.top}V${HEIGHT - PAD.bottom}H${WIDTH - PAD.right}`}
        fill="none"
        stroke="var(--line-strong)"
      />
      {along.ticks.map((tick) => (
        <text
          key={tick.text}
          x={tick.at}
          y={HEIGHT - PAD.bottom + 15}
          fontSize="11.5"
          textAnchor="middle"
          fill="var(--ink-soft)"
        >
          {tick.text}
        </text>
      ))}
      {up.ticks.map((tick) => (
        <g key={tick.text}>
          <path d={`M${PAD.left} ${tick.at}H${WIDTH - PAD.right}`} stroke="var(--line)" />
          <text
            x={PAD.left - 6}
            y={tick.at + 4}
            fontSize="11.5"
            textAnchor="end"
            fill="var(--ink-soft)"
          >
            {tick.text}
          </text>
        </g>
      ))}
      {plot.series.map((series, place) =>
        series.is_line ? (
          <path
            key={place}
            d={`M${series.x.map((x, at) => `${along.of(x)} ${up.of(series.y[at] ?? 0)}`).join("L")}`}
            fill="none"
            stroke="var(--accent)"
            strokeWidth="1.8"
          />
        ) : (
          series.x.map((x, at) => (
            <circle
              key={`${place}-${at}`}
              cx={along.of(x)}
              cy={up.of(series.y[at] ?? 0)}
              r="3.2"
              fill={place % 2 ? "var(--panel)" : "var(--ink)"}
              stroke="var(--ink)"
            />
          ))
        ),
      )}
      <text x={WIDTH - PAD.right} y={HEIGHT - 6} fontSize="12.5" textAnchor="end" fill="var(--ink)">
        {plot.x_label}
      </text>
      <text x={PAD.left - 4} y={14} fontSize="12.5" fill="var(--ink)">
        {plot.y_label}
      </text>
    </svg>
  );
}

interface Axis {
  of: (value: number) => number;
  ticks: { at: number; text: string }[];
}

function scale(values: readonly number[], isLog: boolean, [from, to]: [number, number]): Axis {
  const bent = (value: number) => (isLog ? Math.log2(Math.max(value, 1e-9)) : value);
  const high = Math.max(...values.map(bent));
  const lowest = Math.min(...values.map(bent));
  // What is within a hair of nothing is drawn from nothing.
  const low = !isLog && Math.abs(lowest) < 0.02 * Math.abs(high) ? 0 : lowest;
  const reach = high - low || 1;
  const of = (value: number) => from + ((bent(value) - low) / reach) * (to - from) * 0.94;
  const ticks = Array.from({ length: TICKS + 1 }, (_, at) => {
    const place = low + (at / TICKS) * reach;
    const value = isLog ? 2 ** place : place;
    return { at: of(value), text: short(value) };
  });
  return { of, ticks };
}

function short(value: number): string {
  const text = String(precise(value, 3));
  return text.replace("-", "−");
}
