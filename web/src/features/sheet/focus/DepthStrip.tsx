import { type KeyboardEvent, useState } from "react";

import type { DepthStrip as Strip, SheetBody, StripPlace } from "../../../api/client";
import type { Edit } from "../useSheetEditor";
import { useSize } from "../useSize";
import { SliderNote } from "./SliderNote";
import { precise } from "../../../ui/numbers";

const MARGIN = 26;
const AXIS = 150;
/** Height of the sharp zone. */
const ZONE = 70;
const FAR_M = 1e6;

interface Props {
  strip: Strip;
  body: SheetBody;
  edit: Edit;
}

/** Distances in dioptres, near to the left: what is sharp, the background, the slider beneath. */
export function DepthStrip({ strip, body, edit }: Props) {
  const [frame, { width }] = useSize<HTMLDivElement>({ width: 460, height: 380 });
  const [held, setHeld] = useState<number | null>(null);
  const { places } = strip;
  const span = strip.nearest_d - strip.farthest_d;
  const x = (dioptres: number) =>
    MARGIN + ((strip.nearest_d - dioptres) / span) * (width - 2 * MARGIN);
  const place = held === null ? undefined : places[held];
  const focus_d = place?.dioptres ?? strip.focus_d;
  const near_d = place?.near_d ?? strip.band_near_d;
  const far_d = place?.far_d ?? strip.band_far_d;
  const commit = (index: number) => {
    setHeld(null);
    const next = places[index];
    if (!next) return;
    const distance_m = precise(Math.min(next.distance_m, FAR_M), 4);
    edit("focus", (b) => ({ ...b, focus: { ...b.focus, distance_m } }));
  };
  const now = held ?? nearest(places, (place) => Math.abs(place.dioptres - (strip.focus_d ?? 0)));
  const onKey = (event: KeyboardEvent) => {
    const by = { ArrowLeft: 1, ArrowRight: -1, PageUp: 8, PageDown: -8 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    commit(Math.max(0, Math.min(places.length - 1, now + by)));
  };
  const at = (clientX: number, left: number) =>
    nearest(places, (place) => Math.abs(x(place.dioptres) - (clientX - left)));
  const label = place?.label ?? (strip.focus_label || "");
  return (
    <div ref={frame} className="flex h-full flex-col gap-1.5 overflow-y-auto p-2">
      <p className="flex flex-wrap items-baseline gap-x-3">
        <b className="text-[1.85rem] leading-none">{label || "No distance set"}</b>
        <span>{label ? `in focus on ${strip.lens_name}` : strip.lens_name}</span>
        {strip.hyperfocal_words && (
          <span className="ml-auto text-soft">{strip.hyperfocal_words}</span>
        )}
      </p>
      <svg
        width={width - 16}
        height={240}
        viewBox={`8 0 ${width - 16} 240`}
        role="slider"
        tabIndex={0}
        aria-label="Focus distance"
        aria-valuemin={0}
        aria-valuemax={places.length - 1}
        aria-valuenow={now}
        aria-valuetext={label || "not set"}
        className="shrink-0 cursor-ew-resize touch-none"
        onKeyDown={onKey}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          setHeld(at(event.clientX, event.currentTarget.getBoundingClientRect().left - 8));
        }}
        onPointerMove={(event) => {
          if (held === null) return;
          setHeld(at(event.clientX, event.currentTarget.getBoundingClientRect().left - 8));
        }}
        onPointerUp={() => held !== null && commit(held)}
        onPointerCancel={() => setHeld(null)}
      >
        {near_d !== null && far_d !== null && (
          <Band x={x} near={near_d} far={far_d} limit={strip.nearest_d} />
        )}
        {strip.wanted_near_d !== null && strip.wanted_far_d !== null && (
          <Wanted left={x(strip.wanted_near_d)} right={x(strip.wanted_far_d)} />
        )}
        <path d={`M${MARGIN} ${AXIS}H${width - MARGIN}`} stroke="var(--ink)" strokeWidth="2" />
        {spaced(strip.ticks, x, width).map((tick) => (
          <g key={tick.label}>
            <path d={`M${x(tick.dioptres)} ${AXIS}v7`} stroke="var(--ink)" strokeWidth="1.5" />
            <text
              x={x(tick.dioptres)}
              y={AXIS + 21}
              fontSize="12.5"
              fill="var(--ink)"
              textAnchor={
                x(tick.dioptres) < 40 ? "start" : x(tick.dioptres) > width - 40 ? "end" : "middle"
              }
            >
              {tick.dioptres === 0 ? "∞" : tick.label}
            </text>
          </g>
        ))}
        <Slider strip={strip} x={x} width={width} />
        {strip.stack.map((stop) => (
          <path
            key={stop.dioptres}
            d={`M${x(stop.dioptres)} ${AXIS - ZONE}v${ZONE}`}
            stroke="var(--ink)"
            strokeDasharray="3 3"
          />
        ))}
        {strip.background_d !== null && (
          <g>
            <rect
              x={x(strip.background_d) - 6}
              y={AXIS - 34}
              width="12"
              height="12"
              fill="var(--panel)"
              stroke="var(--ink)"
              strokeWidth="2"
            />
            <text
              x={x(strip.background_d)}
              y={AXIS - 40}
              fontSize="12"
              textAnchor="middle"
              fill="var(--ink)"
            >
              background
            </text>
          </g>
        )}
        {focus_d !== null && (
          <g>
            <path d={`M${x(focus_d)} 22V${AXIS + 4}`} stroke="var(--panel)" strokeWidth="6" />
            <path d={`M${x(focus_d)} 22V${AXIS + 4}`} stroke="var(--accent)" strokeWidth="3" />
            <path d={`M${x(focus_d)} 34l-9 -15h18z`} fill="var(--accent)" />
          </g>
        )}
      </svg>
      <SliderNote {...{ strip, body, edit }} />
      {strip.small.length > 0 && <SmallThings strip={strip} />}
    </div>
  );
}

function Band({
  x,
  near,
  far,
  limit,
}: {
  x: (d: number) => number;
  near: number;
  far: number;
  limit: number;
}) {
  const left = x(Math.min(near, limit));
  return (
    <g>
      <rect
        x={left}
        y={AXIS - ZONE}
        width={Math.max(2, x(far) - left)}
        height={ZONE}
        fill="var(--accent-soft)"
        stroke="var(--accent)"
      />
      <text
        x={(left + x(far)) / 2}
        y={AXIS - ZONE / 2 + 4}
        fontSize="12"
        textAnchor="middle"
        fill="var(--ink)"
      >
        {x(far) - left > 44 ? "sharp" : ""}
      </text>
    </g>
  );
}

function Wanted({ left, right }: { left: number; right: number }) {
  return (
    <g>
      <path
        d={`M${left} ${AXIS - ZONE - 8}v-6H${right}v6`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="2"
      />
      <text x={right + 8} y={AXIS - ZONE - 4} fontSize="12" fill="var(--ink)">
        must be sharp
      </text>
    </g>
  );
}

function Slider({ strip, x, width }: { strip: Strip; x: (d: number) => number; width: number }) {
  if (strip.slider_ticks.length === 0) return null;
  return (
    <g>
      <text x={MARGIN} y={AXIS + 48} fontSize="12" fill="var(--ink-soft)">
        slider
      </text>
      <path
        d={`M${MARGIN} ${AXIS + 56}H${width - MARGIN}`}
        stroke="var(--line-strong)"
        strokeWidth="1.5"
      />
      {spaced(strip.slider_ticks, x, width).map((tick) => (
        <g key={tick.label}>
          <path d={`M${x(tick.dioptres)} ${AXIS + 56}v6`} stroke="var(--line-strong)" />
          <text
            x={x(tick.dioptres)}
            y={AXIS + 76}
            fontSize="12.5"
            textAnchor="middle"
            fill="var(--ink)"
          >
            {tick.label}
          </text>
        </g>
      ))}
    </g>
  );
}

function SmallThings({ strip }: { strip: Strip }) {
  return (
    <table className="w-full text-[0.9rem]">
      <thead className="text-left text-[0.8rem] text-soft">
        <tr>
          <th className="font-normal">Small subject</th>
          <th className="font-normal">From</th>
          <th className="font-normal">Pixels on subject</th>
          <th className="font-normal">Fills frame</th>
          <th className="font-normal">Depth</th>
        </tr>
      </thead>
      <tbody>
        {strip.small.map((place) => (
          <tr
            key={place.way}
            className={`border-t border-line ${place.best ? "font-semibold" : ""}`}
          >
            <td className="py-0.5">{place.way}</td>
            <td>{place.distance}</td>
            <td>{place.across_px}</td>
            <td>{Math.round(100 * place.of_frame)} %</td>
            <td>{place.depth_mm < 1000 ? `${precise(place.depth_mm, 2)} mm` : "all"}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function nearest(places: StripPlace[], off: (place: StripPlace) => number): number {
  let best = 0;
  places.forEach((place, index) => {
    const now = places[best];
    if (now && off(place) < off(now)) best = index;
  });
  return best;
}

/** Only as many marks as have room for their words. */
function spaced<T extends { label: string; dioptres: number }>(
  marks: readonly T[],
  x: (dioptres: number) => number,
  width: number,
): T[] {
  const kept: T[] = [];
  let free = width + 40;
  [...marks]
    .sort((a, b) => a.dioptres - b.dioptres)
    .forEach((mark) => {
      const half = 4 * mark.label.length + 5;
      const at = x(mark.dioptres);
      if (at + half > free) return;
      kept.push(mark);
      free = at - half;
    });
  return kept;
}
