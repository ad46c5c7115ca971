import type { ExposureMap, Plan } from "../../../api/client";
import { type Area, xOf, yOf } from "./mapModel";
import { precise } from "../../../ui/numbers";

interface Props {
  map: ExposureMap;
  area: Area;
  plan: Plan;
}

/** Lines of equal noise, steps that expose evenly, and auto's choice. */
export function MapMarks({ map, area, plan }: Props) {
  return (
    <g pointerEvents="none">
      <g clipPath="url(#map-area)">
        <EvenSteps area={area} plan={plan} />
        {map.contours.map((contour) => (
          <polyline
            key={contour.snr}
            points={contour.points
              .map((point) => `${xOf(area, point.shutter_s)},${yOf(area, point.iso)}`)
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
      {plan.auto && <Auto area={area} auto={plan.auto} slip={plan.slip} />}
    </g>
  );
}

function EvenSteps({ area, plan }: Pick<Props, "area" | "plan">) {
  const even = plan.limits.find((limit) => limit.only)?.only ?? [];
  return (
    <g stroke="var(--accent)" strokeWidth={1} opacity={0.75}>
      {even.map((shutter) => {
        const x = xOf(area, shutter);
        return <line key={shutter} x1={x} x2={x} y1={area.top} y2={area.bottom} />;
      })}
    </g>
  );
}

const NAME_WIDTH = 48;
const CLEAR_PX = 12;

/** The number of a contour, as high inside the map as the line of the wanted exposure leaves. */
function ContourName({ map, area, snr }: { map: ExposureMap; area: Area; snr: number }) {
  const onMap = (point: { shutter_s: number; iso: number }) => ({
    x: xOf(area, point.shutter_s),
    y: yOf(area, point.iso),
  });
  const points = map.contours.find((contour) => contour.snr === snr)?.points ?? [];
  const line = (map.line ?? []).map(onMap);
  const places = points
    .map(onMap)
    .filter(({ y }) => y > area.top + 34 && y < area.bottom - 12)
    .sort((point, other) => point.y - other.y)
    .flatMap(({ x, y }) => [
      { x: x + 4, y: y - 3 },
      { x: x - 4 - NAME_WIDTH, y: y - 3 },
    ])
    .filter(({ x }) => x > area.left + 4 && x < area.right - NAME_WIDTH);
  const place = places.find((at) => isClear(line, at)) ?? places[0];
  if (!place) return null;
  return (
    <text
      x={place.x}
      y={place.y}
      fontSize={12}
      fill="var(--ink)"
      paintOrder="stroke"
      stroke="var(--raised)"
      strokeWidth={4}
    >
      SNR {precise(snr, 3)}
    </text>
  );
}

/** Whether a name beginning at a place stays off a line drawn on the map. */
function isClear(line: { x: number; y: number }[], at: { x: number; y: number }): boolean {
  return line.every((from, index) => {
    const to = line[index + 1];
    if (!to) return true;
    return [at.y - 12, at.y].every((y) => {
      if (y < Math.min(from.y, to.y) || y > Math.max(from.y, to.y) || from.y === to.y) return true;
      const x = from.x + ((y - from.y) / (to.y - from.y)) * (to.x - from.x);
      return x < at.x - CLEAR_PX || x > at.x + NAME_WIDTH + CLEAR_PX;
    });
  });
}

function Auto({
  area,
  auto,
  slip,
}: {
  area: Area;
  auto: NonNullable<Plan["auto"]>;
  slip: Plan["slip"];
}) {
  const x = xOf(area, auto.shutter_s);
  const y = yOf(area, auto.iso);
  if (x < area.left || x > area.right || y < area.top || y > area.bottom) return null;
  const dotX = slip ? xOf(area, slip.shutter_s) : Infinity;
  const dotY = slip ? yOf(area, slip.iso) : Infinity;
  const underDot = dotX > x && dotX < x + 60 && Math.abs(dotY - y) < 18;
  const toLeft = x > area.right - 60 || (underDot && x > area.left + 50);
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
