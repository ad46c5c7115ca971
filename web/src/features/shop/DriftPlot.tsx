import { fixed, signed } from "../../ui/numbers";
import type { Drift } from "./queries";

const WIDTH = 380;
const HEIGHT = 150;
const PAD = { left: 46, right: 14, top: 12, bottom: 26 };
const SPAN: Record<Drift["quantity"], number> = { stops: 0.4, mired: 20 };
const NAME: Record<Drift["quantity"], string> = { stops: "Exposure", mired: "Colour" };

interface Props {
  drift: Drift;
  chosen: number | null;
  onChoose: (take: number) => void;
}

/** Exposure or warmth against time: plain paper is what a buyer does not see. */
export function DriftPlot({ drift, chosen, onChoose }: Props) {
  const { points, seen, quantity } = drift;
  const unit = quantity === "stops" ? "stop" : "mired";
  const reach = Math.max(SPAN[quantity], ...points.map((point) => Math.abs(point.value)));
  const last = Math.max(1, ...points.map((point) => point.minutes));
  const x = (minutes: number) => PAD.left + (minutes / last) * (WIDTH - PAD.left - PAD.right);
  const y = (value: number) =>
    PAD.top + ((reach - value) / (2 * reach)) * (HEIGHT - PAD.top - PAD.bottom);
  const band = { top: y(Math.min(seen, reach)), bottom: y(-Math.min(seen, reach)) };
  return (
    <figure>
      <figcaption className="mb-1">
        <b>{NAME[quantity]}</b> <span className="text-soft">{drift.words}</span>
      </figcaption>
      {points.length > 0 && (
        <svg
          viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
          className="w-full"
          role="img"
          aria-label={`${NAME[quantity]} over time. ${drift.words}`}
        >
          <path
            d={`M${PAD.left} ${PAD.top}H${WIDTH - PAD.right}V${HEIGHT - PAD.bottom}H${PAD.left}Z`}
            fill="var(--sunk)"
          />
          <rect
            x={PAD.left}
            width={WIDTH - PAD.left - PAD.right}
            y={band.top}
            height={band.bottom - band.top}
            fill="var(--raised)"
          />
          {[reach, 0, -reach].map((value) => (
            <text
              key={value}
              x={PAD.left - 6}
              y={y(value) + 4}
              fontSize="11.5"
              textAnchor="end"
              fill="var(--ink-soft)"
            >
              {value === 0 ? "0" : signed(value, quantity === "stops" ? 1 : 0)}
            </text>
          ))}
          <text x={PAD.left} y={HEIGHT - 8} fontSize="11.5" fill="var(--ink-soft)">
            {`${unit}, by minutes`}
          </text>
          <text
            x={WIDTH - PAD.right}
            y={HEIGHT - 8}
            fontSize="11.5"
            textAnchor="end"
            fill="var(--ink-soft)"
          >
            {`${fixed(last, 0)} min`}
          </text>
          {!drift.is_steady && (
            <path
              d={`M${points.map((point) => `${x(point.minutes)} ${y(point.line)}`).join("L")}`}
              fill="none"
              stroke="var(--accent)"
              strokeWidth="1.8"
            />
          )}
          {points.map((point) => (
            <g
              key={point.take_id}
              onClick={() => onChoose(point.take_id)}
              className="cursor-pointer"
            >
              <circle cx={x(point.minutes)} cy={y(point.value)} r="11" fill="transparent" />
              <circle
                cx={x(point.minutes)}
                cy={y(point.value)}
                r={point.take_id === chosen ? 6 : 4}
                fill={point.is_alone ? "var(--raised)" : "var(--ink)"}
                stroke={point.take_id === chosen ? "var(--accent)" : "var(--ink)"}
                strokeWidth="2"
              />
            </g>
          ))}
        </svg>
      )}
    </figure>
  );
}
