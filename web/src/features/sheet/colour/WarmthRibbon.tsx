import { type KeyboardEvent, type ReactNode, useState } from "react";

import type { WarmthRibbon as Ribbon, WarmthStep } from "../../../api/client";
import { Select } from "../../../ui/Field";
import { Term } from "../../help/Term";
import type { Edit } from "../useSheetEditor";
import { useSize } from "../useSize";
import { Explained } from "../../help/Explained";

const MARGIN = 18;
const MARK_ROW = 19;

interface Props {
  ribbon: Ribbon;
  edit: Edit;
}

/** Lights and dial in mired, warm to the right, and what each setting makes of a neutral
 *  and of a tone of the picture. */
export function WarmthRibbon({ ribbon, edit }: Props) {
  const [frame, { width }] = useSize<HTMLDivElement>({ width: 460, height: 380 });
  const [held, setHeld] = useState<number | null>(null);
  const [chosen, setChosen] = useState(0);
  const { steps, tone_names: names } = ribbon;
  const tone = chosen < names.length ? chosen : 0;
  const dialled = steps.findIndex((step) => step.dial_k === ribbon.dial_k);
  const shown = held ?? dialled;
  const step = steps[shown];
  const known = ribbon.light_mired !== null;
  const x = (mired: number) =>
    MARGIN +
    ((mired - ribbon.low_mired) / (ribbon.high_mired - ribbon.low_mired)) * (width - 2 * MARGIN);
  const rows = placed(ribbon, x, width);
  const ribbonTop = rows.height + 12;
  const commit = (index: number) => {
    const next = steps[index];
    setHeld(null);
    if (next?.warmth_mired === undefined || next.warmth_mired === null) return;
    const mood = Math.round(next.warmth_mired * 10) / 10;
    edit("white by hand", (b) => ({
      ...b,
      light_colour: { ...b.light_colour, mood_mired: Math.max(-200, Math.min(200, mood)) },
    }));
  };
  const onKey = (event: KeyboardEvent) => {
    const by = { ArrowRight: -1, ArrowLeft: 1, PageDown: -5, PageUp: 5 }[event.key];
    if (by === undefined || !known || shown < 0) return;
    event.preventDefault();
    commit(Math.max(0, Math.min(steps.length - 1, shown + by)));
  };
  const nearest = (clientX: number, left: number) => nearestStep(steps, x, clientX - left);
  return (
    <div ref={frame} className="flex h-full flex-col gap-2 p-2">
      <p className="flex flex-wrap items-baseline gap-x-3">
        <b className="text-[1.85rem] leading-none">{step ? `${step.dial_k} K` : "Auto"}</b>
        <span>{step ? step.words : "automatic"}</span>
        {ribbon.light_mired !== null && (
          <span className="ml-auto text-soft">
            light {Math.round(ribbon.light_mired)} <Term id="mired">mired</Term>
            {step ? `, dial ${Math.round(step.mired)}` : ""}
          </span>
        )}
      </p>
      <svg
        width={width - 16}
        height={ribbonTop + 118}
        viewBox={`8 0 ${width - 16} ${ribbonTop + 118}`}
        role="slider"
        tabIndex={0}
        aria-label="White balance dial"
        aria-valuemin={steps[0]?.dial_k ?? 0}
        aria-valuemax={steps[steps.length - 1]?.dial_k ?? 0}
        aria-valuenow={step?.dial_k ?? 0}
        aria-valuetext={step ? `${step.dial_k} K, ${step.words}` : "auto"}
        aria-disabled={!known}
        className={`touch-none ${known ? "cursor-ew-resize" : ""}`}
        onKeyDown={onKey}
        onPointerDown={(event) => {
          if (!known) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          setHeld(nearest(event.clientX, event.currentTarget.getBoundingClientRect().left - 8));
        }}
        onPointerMove={(event) => {
          if (held === null) return;
          setHeld(nearest(event.clientX, event.currentTarget.getBoundingClientRect().left - 8));
        }}
        onPointerUp={() => held !== null && commit(held)}
        onPointerCancel={() => setHeld(null)}
      >
        {rows.marks.map((mark) => (
          <g key={`${mark.kind}-${mark.name}`}>
            <path
              d={`M${mark.x} ${mark.y + 4}V${ribbonTop}`}
              stroke="var(--line-strong)"
              strokeWidth={mark.kind === "usual" ? 1 : 2}
            />
            <path
              d={`M${mark.low} ${mark.y + 5}H${mark.high}`}
              stroke="var(--ink)"
              strokeWidth={mark.kind === "usual" ? 1 : 3}
            />
            <text
              x={mark.x}
              y={mark.y}
              fontSize="12.5"
              textAnchor={mark.anchor}
              fill={mark.kind === "usual" ? "var(--ink-soft)" : "var(--ink)"}
              fontWeight={mark.kind === "usual" ? 400 : 700}
            >
              {mark.name} {Math.round(mark.cct_k / 10) * 10} K
            </text>
          </g>
        ))}
        <g style={{ filter: "var(--picture-filter)" }}>
          {steps.map((step, index) => {
            const [left, right] = edges(steps, index, x);
            const cell = {
              x: left,
              width: Math.max(0.5, right - left + 0.4),
              stroke: "none",
              shapeRendering: "crispEdges" as const,
            };
            return (
              <g key={step.dial_k}>
                <rect {...cell} y={ribbonTop} height="34" fill={step.neutral} />
                <rect {...cell} y={ribbonTop + 34} height="34" fill={step.tones[tone]} />
              </g>
            );
          })}
        </g>
        <text x={MARGIN} y={ribbonTop + 103} fontSize="12" fill="var(--ink-soft)">
          ← higher dial, warmer picture
        </text>
        <text
          x={width - MARGIN}
          y={ribbonTop + 103}
          fontSize="12"
          textAnchor="end"
          fill="var(--ink-soft)"
        >
          lower dial, cooler picture →
        </text>
        {step && <Dial x={x(step.mired)} top={ribbonTop} />}
      </svg>
      {step && known && <Swatches {...{ step, names, tone }} onChoose={setChosen} />}
      <p className="text-[0.9rem] leading-snug text-soft">
        <Explained>{ribbon.both_facts}</Explained>
      </p>
      {!known && (
        <p className="leading-snug">
          Choose the light, or measure a white or grey patch, to get a white balance.
        </p>
      )}
    </div>
  );
}

function Dial({ x, top }: { x: number; top: number }) {
  return (
    <g>
      <path d={`M${x} ${top - 6}V${top + 74}`} stroke="var(--panel)" strokeWidth="6" />
      <path d={`M${x} ${top - 6}V${top + 74}`} stroke="var(--ink)" strokeWidth="2.5" />
      <path
        d={`M${x} ${top + 70}l11 16h-22z`}
        fill="var(--accent)"
        stroke="var(--panel)"
        strokeWidth="1.5"
      />
    </g>
  );
}

interface SwatchesProps {
  step: WarmthStep;
  names: readonly string[];
  tone: number;
  onChoose: (tone: number) => void;
}

/** A neutral and a chosen tone as the setting makes them. */
function Swatches({ step, names, tone, onChoose }: SwatchesProps) {
  return (
    <div className="grid grid-cols-2 gap-2">
      <Swatch colour={step.neutral}>a grey card</Swatch>
      <Swatch colour={step.tones[tone] ?? step.neutral}>
        {names.length > 1 ? (
          <Select
            label="Tone shown"
            value={String(tone)}
            options={names.map((name, at) => ({ value: String(at), text: name }))}
            onChange={(next) => onChoose(Number(next))}
          />
        ) : (
          names[tone]
        )}
      </Swatch>
    </div>
  );
}

function Swatch({ colour, children }: { colour: string; children: ReactNode }) {
  return (
    <div className="flex items-center gap-2">
      <span
        className="h-12 flex-1 rounded border border-line"
        style={{ background: colour, filter: "var(--picture-filter)" }}
      />
      <span className="w-28 text-[0.85rem] leading-tight">{children}</span>
    </div>
  );
}

function edges(steps: WarmthStep[], index: number, x: (mired: number) => number): [number, number] {
  const here = steps[index]?.mired ?? 0;
  const before = steps[index - 1]?.mired ?? here;
  const after = steps[index + 1]?.mired ?? here;
  const ends = [x((here + before) / 2), x((here + after) / 2)];
  return [Math.min(...ends), Math.max(...ends)];
}

function nearestStep(steps: WarmthStep[], x: (mired: number) => number, at: number): number {
  let best = 0;
  steps.forEach((step, index) => {
    if (Math.abs(x(step.mired) - at) < Math.abs(x(steps[best]?.mired ?? 0) - at)) best = index;
  });
  return best;
}

/** Marks in as many rows as their names need. */
function placed(ribbon: Ribbon, x: (mired: number) => number, width: number) {
  const ends: number[] = [];
  const order = [...ribbon.marks].sort((a, b) => a.mired - b.mired);
  const marks = order.map((mark) => {
    const at = x(mark.mired);
    const half = (mark.name.length + 7) * 3.4;
    const anchor: "start" | "middle" | "end" =
      at - half < 8 ? "start" : at + half > width - 8 ? "end" : "middle";
    const from = anchor === "start" ? at : anchor === "end" ? at - 2 * half : at - half;
    let row = ends.findIndex((end) => end < from - 6);
    if (row < 0) row = ends.length;
    ends[row] = from + 2 * half;
    return {
      ...mark,
      x: at,
      y: 14 + row * MARK_ROW,
      anchor,
      low: x(mark.mired - mark.plus_minus_mired),
      high: x(mark.mired + mark.plus_minus_mired),
    };
  });
  return { marks, height: Math.max(1, ends.length) * MARK_ROW };
}
