import { type PointerEvent, type ReactNode, useState } from "react";

import type { Frame } from "./frameQuery";

const SIDE_PX = 150;
const AWAY_PX = 16;

interface Spot {
  x: number;
  y: number;
  width: number;
  height: number;
}

interface Props {
  /** The frame seen at a share of the width. */
  frameAt: (u: number) => Frame;
  children: ReactNode;
}

/** A loupe over the picture, under the mouse or a held finger, that shows its pixels one to one. */
export function Loupe({ frameAt, children }: Props) {
  const [place, setPlace] = useState<Spot | null>(null);
  const follow = (event: PointerEvent) => {
    const { left, top, width, height } = event.currentTarget.getBoundingClientRect();
    setPlace({ x: event.clientX - left, y: event.clientY - top, width, height });
  };
  return (
    <div
      className="relative h-full w-full"
      onPointerDown={follow}
      onPointerMove={follow}
      onPointerLeave={() => setPlace(null)}
      onPointerCancel={() => setPlace(null)}
    >
      {children}
      {place && <Magnified place={place} frame={frameAt(place.x / place.width)} />}
    </div>
  );
}

function Magnified({ place, frame }: { place: Spot; frame: Frame }) {
  // A coarse frame has no pixels worth looking at.
  if (frame.quality !== "full") return null;
  const { x, y, width, height } = place;
  const beside = x + AWAY_PX + SIDE_PX <= width ? x + AWAY_PX : x - AWAY_PX - SIDE_PX;
  const within = (at: number, whole: number) => Math.max(0, Math.min(whole - SIDE_PX, at));
  const shift = (at: number, whole: number, own: number) => SIDE_PX / 2 - (at / whole) * own;
  return (
    <div
      aria-hidden="true"
      data-loupe={frame.figures.chooser}
      className="pointer-events-none absolute z-10 border-2 border-white bg-black outline-1 outline-black"
      style={{
        width: SIDE_PX,
        height: SIDE_PX,
        left: within(beside, width),
        top: within(y - SIDE_PX / 2, height),
        backgroundImage: `url(${frame.url})`,
        backgroundSize: `${frame.width}px ${frame.height}px`,
        backgroundPosition: `${shift(x, width, frame.width)}px ${shift(y, height, frame.height)}px`,
        backgroundRepeat: "no-repeat",
      }}
    />
  );
}
