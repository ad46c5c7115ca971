import type { ExposureMap, Plan } from "../../api/client";
import { type Area, xOf, yOf } from "./mapModel";

interface Props {
  map: ExposureMap;
  area: Area;
  plan: Plan;
}

/** Lines of equal noise, steps that expose evenly, and where auto would stand. */
export function MapMarks({ map, area, plan }: Props) {
  return (
    <g pointerEvents="none">
      <clipPath id="map-area">
        <rect
          x={area.left}
          y={area.top}
          width={area.right - area.left}
          height={area.bottom - area.top}
        />
      </clipPath>
      <g clipPath="url(#map-area)">
        <EvenSteps map={map} area={area} plan={plan} />
        {map.contours.map((contour) => (
          <polyline
            key={contour.snr}
            points={contour.points
              .map((point) => `${xOf(map, area, point.shutter_s)},${yOf(map, area, point.iso)}`)
              .join(" ")}
            fill="none"
            stroke="var(--ink)"
            strokeWidth={1.2}
            strokeDasharray="1 3"
          />
        ))}
      </g>
      {map.contours.map((contour) => (
        <ContourName key={contour.snr} map={map} area={area} snr={contour.snr} />
      ))}
      {plan.auto && <Auto map={map} area={area} auto={plan.auto} />}
    </g>
  );
}

function EvenSteps({ map, area, plan }: Props) {
  const even = plan.limits.find((limit) => limit.only)?.only ?? [];
  return (
    <g stroke="var(--accent)" strokeWidth={1} opacity={0.75}>
      {even.map((shutter) => {
        const x = xOf(map, area, shutter);
        return <line key={shutter} x1={x} x2={x} y1={area.top} y2={area.bottom} />;
      })}
    </g>
  );
}

/** The number of a contour, where it last lies inside the map. */
function ContourName({ map, area, snr }: { map: ExposureMap; area: Area; snr: number }) {
  const points = map.contours.find((contour) => contour.snr === snr)?.points ?? [];
  const inside = points
    .map((point) => ({ x: xOf(map, area, point.shutter_s), y: yOf(map, area, point.iso) }))
    .filter(
      ({ x, y }) =>
        x > area.left + 8 && x < area.right - 46 && y > area.top + 34 && y < area.bottom - 12,
    );
  const last = inside.reduce<(typeof inside)[number] | null>(
    (top, at) => (!top || at.y < top.y ? at : top),
    null,
  );
  if (!last) return null;
  return (
    <text
      x={last.x + 4}
      y={last.y - 3}
      fontSize={12}
      fill="var(--ink)"
      paintOrder="stroke"
      stroke="var(--raised)"
      strokeWidth={4}
    >
      SNR {Number(snr.toPrecision(3))}
    </text>
  );
}

function Auto({
  map,
  area,
  auto,
}: {
  map: ExposureMap;
  area: Area;
  auto: NonNullable<Plan["auto"]>;
}) {
  const x = Math.max(area.left, Math.min(area.right, xOf(map, area, auto.shutter_s)));
  const y = Math.max(area.top, Math.min(area.bottom, yOf(map, area, auto.iso)));
  const toLeft = x > area.right - 60;
  return (
    <g>
      <title>{auto.words}</title>
      <rect
        x={x - 6}
        y={y - 6}
        width={12}
        height={12}
        transform={`rotate(45 ${x} ${y})`}
        fill="var(--raised)"
        stroke="var(--ink)"
        strokeWidth={2}
      />
      <text
        x={toLeft ? x - 13 : x + 13}
        y={y + 4}
        textAnchor={toLeft ? "end" : "start"}
        fontSize={12.5}
        fill="var(--ink)"
        paintOrder="stroke"
        stroke="var(--raised)"
        strokeWidth={4}
      >
        auto
      </text>
    </g>
  );
}
