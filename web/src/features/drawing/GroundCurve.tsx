import type { LampDrawingPlan } from "../../api/client";
import { useSize } from "../sheet/useSize";
import { exposureTime } from "../../ui/numbers";

const HIGH = 190;
const LEFT = 46;
const BOTTOM = 26;
const TOP_STOPS = 1;
const LOW_STOPS = -11;

/** How the background builds up while the shutter is open, and when it begins to show. */
export function GroundCurve({ planned }: { planned: LampDrawingPlan }) {
  const [box, size] = useSize<HTMLDivElement>({ width: 800, height: HIGH });
  const { curve } = planned;
  const first = curve[0]?.[0];
  const last = curve[curve.length - 1]?.[0];
  if (first === undefined || last === undefined)
    return (
      <p className="rounded border border-dashed border-strong p-4 text-soft">
        Room light not measured. Add a reading of the background to the sheet.
      </p>
    );
  const x = (time: number) =>
    LEFT + ((size.width - LEFT - 12) * Math.log(time / first)) / Math.log(last / first);
  const y = (stops: number) =>
    8 +
    ((HIGH - BOTTOM - 8) * (TOP_STOPS - Math.max(LOW_STOPS, Math.min(TOP_STOPS, stops)))) /
      (TOP_STOPS - LOW_STOPS);
  const line = curve.map(([time, level]) => `${x(time)},${y(level)}`).join(" ");
  const marks = [0.5, 1, 2, 5, 10, 20, 60, 120, 300].filter((s) => s >= first && s <= last);
  return (
    <section aria-label="Background brightness" className="rounded border border-line bg-panel p-3">
      <h2 className="font-semibold">
        The background brightens, the line does not
        {planned.black_s !== null && (
          <span className="font-normal text-soft tabular-nums">
            {" "}
            black until {exposureTime(planned.black_s)}
          </span>
        )}
      </h2>
      <div ref={box}>
        <svg
          width="100%"
          height={HIGH}
          viewBox={`0 0 ${size.width} ${HIGH}`}
          role="img"
          aria-label="Background brightness over time"
        >
          <rect
            x={LEFT}
            y={8}
            width={size.width - LEFT - 12}
            height={y(planned.black_stops) - 8}
            fill="var(--forbidden)"
          />
          <text x={LEFT + 6} y={y(planned.black_stops) - 5} fontSize="12.5" fill="var(--ink-soft)">
            visible
          </text>
          {[0, -3, -6, -9].map((stops) => (
            <text
              key={stops}
              x={LEFT - 6}
              y={y(stops) + 4}
              fontSize="12.5"
              textAnchor="end"
              fill="var(--ink-soft)"
            >
              {stops === 0 ? "mid" : `−${-stops}`}
            </text>
          ))}
          {marks.map((s) => (
            <text
              key={s}
              x={x(s)}
              y={HIGH - 6}
              fontSize="12.5"
              textAnchor={x(s) > size.width - 40 ? "end" : "middle"}
              fill="var(--ink-soft)"
            >
              {exposureTime(s)}
            </text>
          ))}
          <polyline points={line} fill="none" stroke="var(--ink)" strokeWidth="2.5" />
          <line
            x1={x(planned.takes_s)}
            x2={x(planned.takes_s)}
            y1={8}
            y2={HIGH - BOTTOM}
            stroke="var(--accent)"
            strokeWidth="2.5"
          />
          <text x={x(planned.takes_s) + 6} y={22} fontSize="13" fill="var(--accent)">
            drawing time
          </text>
        </svg>
      </div>
    </section>
  );
}
