import type { NightPlan, PlaceBody } from "../../api/client";
import { useSize } from "../sheet/useSize";

const HIGH = 250;
const BOTTOM = 24;
const TOP_DEG = 90;
const WINDS = [
  { deg: 0, text: "north" },
  { deg: 90, text: "east" },
  { deg: 180, text: "south" },
  { deg: 270, text: "west" },
  { deg: 360, text: "north" },
];

interface Props {
  night: NightPlan;
  body: PlaceBody;
}

/** All round the horizon: what hides the sky, towns, and how the Milky Way leans at its best. */
export function NightPanorama({ night, body }: Props) {
  const [box, size] = useSize<HTMLDivElement>({ width: 900, height: HIGH });
  const width = Math.max(300, size.width);
  const { band } = night;
  // The core stands in the middle, whichever way that is.
  const middle = band?.centre_bearing_deg ?? 180;
  const turned = (bearing: number) => ((((bearing - middle + 180) % 360) + 360) % 360) / 360;
  const x = (bearing: number) => width * turned(bearing);
  const y = (deg: number) => (HIGH - BOTTOM) * (1 - Math.max(-8, deg) / TOP_DEG);
  const seen = (band?.path ?? []).filter(([, height]) => height > -3 && height < 86);
  return (
    <div ref={box}>
      <svg
        width="100%"
        height={HIGH}
        viewBox={`0 0 ${width} ${HIGH}`}
        role="img"
        aria-label={band ? band.words : "The horizon all round"}
        className="block rounded bg-[#161616]"
      >
        {[30, 60].map((deg) => (
          <g key={deg}>
            <line x1={0} x2={width} y1={y(deg)} y2={y(deg)} stroke="#444" strokeDasharray="2 5" />
            <text x={4} y={y(deg) - 4} fontSize="12" fill="#bbb">
              {deg}° up
            </text>
          </g>
        ))}
        {body.glow.map((one) => (
          <ellipse
            key={one.bearing_deg}
            cx={x(one.bearing_deg)}
            cy={y(0)}
            rx={width / 10}
            ry={18 + 14 * one.stops}
            fill="#8a8a8a"
            opacity="0.35"
          />
        ))}
        {seen.map(([bearing, height], at) => (
          <circle
            key={at}
            cx={x(bearing)}
            cy={y(height)}
            r={11 - 7 * Math.abs((2 * at) / Math.max(1, seen.length) - 1)}
            fill="#e8e8e8"
            opacity="0.4"
          />
        ))}
        {band && (
          <g>
            <circle cx={x(middle)} cy={y(band.centre_altitude_deg)} r="5" fill="#fff" />
            <text
              x={x(middle) + 12}
              y={y(band.centre_altitude_deg) + 4}
              fontSize="13"
              fill="#fff"
              stroke="#161616"
              strokeWidth="3"
              paintOrder="stroke"
            >
              core, {Math.round(band.centre_altitude_deg)}° up
            </text>
          </g>
        )}
        <path d={skyline(body, width, middle, y)} fill="#3a3a3a" stroke="#777" />
        {WINDS.slice(0, 4).map((one) => (
          <text
            key={one.text}
            x={Math.max(18, Math.min(width - 18, x(one.deg)))}
            y={HIGH - 7}
            fontSize="12.5"
            textAnchor="middle"
            fill="#ddd"
          >
            {one.text}
          </text>
        ))}
      </svg>
    </div>
  );
}

/** What hides the sky, straight between its points, from edge to edge. */
function skyline(
  body: PlaceBody,
  width: number,
  middle: number,
  y: (deg: number) => number,
): string {
  const points = [...body.horizon].sort((a, b) => a.bearing_deg - b.bearing_deg);
  const steps = 72;
  const tops = Array.from({ length: steps + 1 }, (_, at) => {
    const bearing = (middle - 180 + (360 * at) / steps + 720) % 360;
    return `L${(width * at) / steps} ${y(heightAt(points, bearing))}`;
  });
  return `M0 ${HIGH}${tops.join("")}L${width} ${HIGH}Z`;
}

function heightAt(
  points: readonly { bearing_deg: number; height_deg: number }[],
  bearing: number,
): number {
  const first = points[0];
  const last = points.at(-1);
  if (!first || !last) return 0;
  const after = points.find((point) => point.bearing_deg >= bearing) ?? first;
  const before = [...points].reverse().find((point) => point.bearing_deg <= bearing) ?? last;
  const span = (after.bearing_deg - before.bearing_deg + 360) % 360;
  if (span === 0) return before.height_deg;
  const share = ((bearing - before.bearing_deg + 360) % 360) / span;
  return before.height_deg + share * (after.height_deg - before.height_deg);
}
