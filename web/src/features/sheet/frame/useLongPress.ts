import { type PointerEvent, useRef } from "react";

const LONG_MS = 500;
const STILL_PX = 10;

/** A finger held still on something; scrolling or a short tap is none. */
export function useLongPress<T>(where: (event: PointerEvent) => T, run: (place: T) => void) {
  const held = useRef<{ timer: number; x: number; y: number } | null>(null);
  const end = () => {
    if (held.current) window.clearTimeout(held.current.timer);
    held.current = null;
  };
  return {
    onPointerDown: (event: PointerEvent) => {
      end();
      if (event.pointerType !== "touch") return;
      const place = where(event);
      const timer = window.setTimeout(() => {
        held.current = null;
        run(place);
      }, LONG_MS);
      held.current = { timer, x: event.clientX, y: event.clientY };
    },
    onPointerMove: (event: PointerEvent) => {
      const from = held.current;
      if (from && Math.hypot(event.clientX - from.x, event.clientY - from.y) > STILL_PX) end();
    },
    onPointerUp: end,
    onPointerCancel: end,
  };
}
