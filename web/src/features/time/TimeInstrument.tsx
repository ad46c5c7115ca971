import { useState } from "react";

import type { LongTime, TimeLane, TimeWay } from "../../api/client";
import { useSize } from "../sheet/useSize";
import { FIRST_S, LAST_S, MARKS, timeAxis } from "./axis";

const ROW_PX = 62;
const TOP_PX = 30;
const BAR_TOP_PX = 26;
const BAR_PX = 18;
/** What is wanted in one row, what can be reached in the other. */
const ROWS: readonly { title: string; kinds: readonly TimeLane["kind"][] }[] = [
  { title: "Wanted", kinds: ["backdrop", "look", "wanted"] },
  { title: "Reachable", kinds: ["phone", "light", "frames"] },
];
const FILL: Record<TimeLane["kind"], string> = {
  wanted: "var(--accent)",
  look: "var(--accent-soft)",
  phone: "var(--sunk)",
  light: "var(--sunk)",
  frames: "var(--sunk)",
  backdrop: "var(--sunk)",
};

interface Props {
  time: LongTime;
  /** The routes marked on the axis, by their number. */
  marked: TimeWay[];
  /** The way pointed at, by its time in all. */
  pointedS: number | null;
}

/** Seconds on a log axis: what shows when, what phone, light and frames reach, and one time's figures. */
export function TimeInstrument({ time, marked, pointedS }: Props) {
  const [box, size] = useSize<HTMLDivElement>({ width: 1100, height: 300 });
  const [place, setPlace] = useState(() => startAt(time));
  const width = Math.max(300, size.width);
  const axis = timeAxis(12, width - 12);
  const height = TOP_PX + ROWS.length * ROW_PX + 8;
  const sample = time.samples[place] ?? time.samples[0];
  const step = (by: number) =>
    setPlace((now) => Math.min(time.samples.length - 1, Math.max(0, now + by)));
  const pick = (x: number) => setPlace(nearest(time, axis.seconds(x)));
  if (!sample) return null;
  return (
    <div ref={box}>
      <svg
        width="100%"
        height={height}
        viewBox={`0 0 ${width} ${height}`}
        role="slider"
        tabIndex={0}
        aria-label="Total time"
        aria-valuemin={FIRST_S}
        aria-valuemax={LAST_S}
        aria-valuenow={sample.time_s}
        aria-valuetext={`${sample.label}: ${sample.words.join("; ")}`}
        className="block cursor-ew-resize touch-none select-none"
        onKeyDown={(event) => {
          const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
          if (by === undefined) return;
          event.preventDefault();
          step(by);
        }}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          pick(event.nativeEvent.offsetX);
        }}
        onPointerMove={(event) => {
          if (event.buttons > 0) pick(event.nativeEvent.offsetX);
        }}
      >
        {MARKS.filter((_, at) => width > 560 || at % 2 === 0).map(({ s, text }) => (
          <g key={text}>
            <line
              x1={axis.at(s)}
              x2={axis.at(s)}
              y1={TOP_PX - 6}
              y2={height}
              stroke="var(--line)"
            />
            <text
              x={axis.at(s)}
              y={16}
              fontSize="13"
              fill="var(--ink-soft)"
              textAnchor={s === FIRST_S ? "start" : s === LAST_S ? "end" : "middle"}
            >
              {text}
            </text>
          </g>
        ))}
        {ROWS.map((row, index) => (
          <g key={row.title}>
            <text x={12} y={TOP_PX + index * ROW_PX + 12} fontSize="13" fontWeight="650" {...OVER}>
              {row.title}
            </text>
            {row.kinds
              .flatMap((kind) => time.lanes.filter((lane) => lane.kind === kind))
              .map((lane) => (
                <Lane key={lane.name} {...{ lane, axis, width }} y={TOP_PX + index * ROW_PX} />
              ))}
          </g>
        ))}
        {marked.map(({ id, elapsed_s }, index) =>
          elapsed_s === null ? null : (
            <RouteMark key={id} x={axis.at(elapsed_s)} number={index + 1} shift={index} />
          ),
        )}
        {pointedS !== null && (
          <line
            x1={axis.at(pointedS)}
            x2={axis.at(pointedS)}
            y1={TOP_PX - 6}
            y2={height}
            stroke="var(--ink)"
            strokeDasharray="4 3"
          />
        )}
        <line
          x1={axis.at(sample.time_s)}
          x2={axis.at(sample.time_s)}
          y1={TOP_PX - 8}
          y2={height}
          stroke="var(--ink)"
          strokeWidth="2"
        />
        <path
          d={`M${axis.at(sample.time_s) - 7} ${TOP_PX - 12}h14l-7 9z`}
          fill="var(--ink)"
          aria-hidden
        />
      </svg>
      <p aria-live="polite" className="mt-1 min-h-12 tabular-nums">
        <b className="text-lg">{sample.label}</b>{" "}
        <span className="text-soft">{sample.words.join(" · ")}</span>
      </p>
    </div>
  );
}

const OVER = {
  fill: "var(--ink)",
  stroke: "var(--panel)",
  strokeWidth: 4,
  paintOrder: "stroke",
} as const;

interface LaneProps {
  lane: TimeLane;
  y: number;
  axis: ReturnType<typeof timeAxis>;
  width: number;
}

function Lane({ lane, y, axis, width }: LaneProps) {
  const left = axis.at(lane.from_s ?? FIRST_S);
  const right = axis.at(lane.to_s ?? LAST_S);
  const named = lane.kind === "look";
  const atEnd = right > width - 90;
  return (
    <g>
      <title>{`${lane.name} ${lane.words}`}</title>
      <rect
        x={left}
        y={y + BAR_TOP_PX}
        width={Math.max(3, right - left)}
        height={BAR_PX}
        rx="1.5"
        fill={FILL[lane.kind]}
        stroke={lane.kind === "wanted" ? "none" : "var(--line-strong)"}
      />
      {named && (
        <text
          x={atEnd ? right : left}
          y={y + BAR_TOP_PX - 5}
          fontSize="12.5"
          textAnchor={atEnd ? "end" : "start"}
          {...OVER}
        >
          {lane.name}
        </text>
      )}
      {lane.from_s === null && <Open x={left} y={y + BAR_TOP_PX + BAR_PX / 2} way={-1} />}
      {lane.to_s === null && <Open x={right} y={y + BAR_TOP_PX + BAR_PX / 2} way={1} />}
    </g>
  );
}

/** A route at its time, by the number of its card; marks side by side where times are alike. */
function RouteMark({ x, number, shift }: { x: number; number: number; shift: number }) {
  const y = TOP_PX + ROW_PX + BAR_TOP_PX + BAR_PX / 2;
  const at = x + shift * 3;
  return (
    <g>
      <circle cx={at} cy={y} r={10} fill="var(--raised)" stroke="var(--ink)" strokeWidth={2} />
      <text x={at} y={y + 4.5} fontSize="13" fontWeight="700" textAnchor="middle" fill="var(--ink)">
        {number}
      </text>
    </g>
  );
}

/** An end that is none: it goes on. */
function Open({ x, y, way }: { x: number; y: number; way: 1 | -1 }) {
  return <path d={`M${x} ${y - 5}l${way * 7} 5l${-way * 7} 5z`} fill="var(--line-strong)" />;
}

function nearest(time: LongTime, seconds: number): number {
  let best = 0;
  time.samples.forEach((sample, at) => {
    const off = Math.abs(Math.log(sample.time_s / seconds));
    if (off < Math.abs(Math.log((time.samples[best]?.time_s ?? 1) / seconds))) best = at;
  });
  return best;
}

const startAt = (time: LongTime) => nearest(time, time.wanted_low_s ?? time.wanted_high_s ?? 1);
