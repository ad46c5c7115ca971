import { type PointerEvent, type ReactNode, useRef } from "react";

import { type Frame, nameOf } from "./frameQuery";
import { Loupe } from "./Loupe";
import { type Size, useSize } from "../useSize";

export interface FramePair {
  first: Frame;
  second: Frame | null;
  /** Whether the two differ by their look, which is then in their names. */
  withLook: boolean;
}

const GAP_PX = 6;
const ROOM: Size = { width: 460, height: 250 };
const STEP = 0.05;

/** Two frames beside each other, or one above the other where that shows them larger. */
export function SideBySide({ first, second, withLook }: FramePair) {
  const [box, room] = useSize<HTMLDivElement>(ROOM);
  const across = fitted(first, { ...room, width: (room.width - GAP_PX) / 2 });
  const above = fitted(first, { ...room, height: (room.height - GAP_PX) / 2 });
  const stacked = above.width > across.width;
  const size = stacked ? above : across;
  return (
    <div
      ref={box}
      className={`flex min-h-0 flex-1 items-center justify-center overflow-hidden ${stacked ? "flex-col" : ""}`}
      style={{ gap: GAP_PX }}
    >
      {[first, second].map((frame, index) => (
        <figure key={index} className="relative shrink-0" style={size}>
          {frame ? (
            <Loupe frameAt={() => frame}>
              <Picture frame={frame} withLook={withLook} />
            </Loupe>
          ) : (
            "Predicting…"
          )}
          {frame && <Tag wide>{nameOf(frame, withLook)}</Tag>}
        </figure>
      ))}
    </div>
  );
}

interface WipeProps extends FramePair {
  /** Share of the width of the line. */
  at: number;
  onWipe: (share: number) => void;
}

/** The first frame left of a line, the second right of it; dragged, or moved by arrow keys. */
export function Wipe({ first, second, withLook, at, onWipe }: WipeProps) {
  const [box, room] = useSize<HTMLDivElement>(ROOM);
  const frames = useRef<HTMLElement>(null);
  const held = useRef(false);
  const move = (event: PointerEvent) => {
    const rect = frames.current?.getBoundingClientRect();
    if (rect) onWipe(Math.max(0, Math.min(1, (event.clientX - rect.left) / rect.width)));
  };
  return (
    <div ref={box} className="grid min-h-0 flex-1 place-items-center overflow-hidden">
      <figure ref={frames} className="relative shrink-0" style={fitted(first, room)}>
        <Loupe frameAt={(u) => (second && u > at ? second : first)}>
          <Picture frame={first} withLook={withLook} />
          {second && <Picture frame={second} withLook={withLook} cutLeft={at} />}
        </Loupe>
        <Tag>{nameOf(first, withLook)}</Tag>
        {second && <Tag right>{nameOf(second, withLook)}</Tag>}
        <div
          role="slider"
          tabIndex={0}
          aria-label={`Wipe between ${withLook ? "looks" : "slip and auto"}`}
          aria-valuemin={0}
          aria-valuemax={100}
          aria-valuenow={Math.round(at * 100)}
          className="absolute inset-y-0 w-6 -translate-x-1/2 cursor-ew-resize touch-none"
          style={{ left: `${at * 100}%` }}
          onPointerDown={(event) => {
            held.current = true;
            event.currentTarget.setPointerCapture(event.pointerId);
          }}
          onPointerMove={(event) => held.current && move(event)}
          onPointerUp={() => (held.current = false)}
          onKeyDown={(event) => {
            if (event.key === "ArrowLeft") onWipe(Math.max(0, at - STEP));
            if (event.key === "ArrowRight") onWipe(Math.min(1, at + STEP));
          }}
        >
          <span className="absolute inset-y-0 left-1/2 w-0.5 -translate-x-1/2 bg-white outline-1 outline-black" />
        </div>
      </figure>
    </div>
  );
}

/** The largest size of a frame's own shape within some room. */
function fitted(frame: Size, room: Size): Size {
  const fit = Math.max(0, Math.min(room.width / frame.width, room.height / frame.height));
  return { width: frame.width * fit, height: frame.height * fit };
}

interface PictureProps {
  frame: Frame;
  withLook: boolean;
  /** Share of the width hidden from the left. */
  cutLeft?: number;
}

function Picture({ frame, withLook, cutLeft = 0 }: PictureProps) {
  return (
    <img
      src={frame.url}
      alt={`Predicted frame, ${nameOf(frame, withLook)}`}
      className="absolute inset-0 h-full w-full"
      style={{ clipPath: cutLeft > 0 ? `inset(0 0 0 ${cutLeft * 100}%)` : undefined }}
      data-quality={frame.quality}
    />
  );
}

interface TagProps {
  right?: boolean;
  /** It has the frame's whole width to itself. */
  wide?: boolean;
  children: ReactNode;
}

function Tag({ right = false, wide = false, children }: TagProps) {
  return (
    <figcaption
      className={`pointer-events-none absolute top-1 ${right ? "right-1" : "left-1"} ${wide ? "" : "max-w-[47%]"} rounded-xs bg-black/70 px-1.5 py-px text-[0.85rem] leading-tight text-white`}
    >
      {children}
    </figcaption>
  );
}
