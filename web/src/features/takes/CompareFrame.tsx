import { useEffect, useRef } from "react";
import { rounded } from "../../ui/numbers";

const MOST = 16;

export interface Sight {
  /** How much larger than the whole frame fits. */
  scale: number;
  /** The place in the middle of the view, in shares of the frame. */
  x: number;
  y: number;
}

interface Props {
  picture: string;
  width: number;
  height: number;
  sight: Sight;
  setSight: (next: (now: Sight) => Sight) => void;
  /** Show the picture's own pixels at the place in sight. */
  pixels: boolean;
}

const DETAIL_PX = 640;

/** One frame of several that are seen through the same window: zoomed and moved together. */
export function CompareFrame({ picture, width, height, sight, setSight, pixels }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const drag = useRef<{ x: number; y: number } | null>(null);
  useEffect(() => {
    const element = frame.current;
    // React's own wheel listener may not hold the page still.
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      const by = Math.exp(-event.deltaY / 400);
      setSight((now) => zoomed(now, by));
    };
    element?.addEventListener("wheel", onWheel, { passive: false });
    return () => element?.removeEventListener("wheel", onWheel);
  }, [setSight]);
  const aspect = width > 0 && height > 0 ? width / height : 4 / 3;
  return (
    <div
      ref={frame}
      tabIndex={0}
      role="application"
      aria-label="The take; drag to move, plus and minus to zoom"
      // Until it is zoomed, one finger scrolls the page over it.
      className={`surround relative w-full overflow-hidden rounded ${pixels || sight.scale > 1 ? "touch-none" : "touch-pan-y"}`}
      style={{ aspectRatio: aspect }}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        drag.current = { x: event.clientX, y: event.clientY };
      }}
      onPointerMove={(event) => {
        if (!drag.current || pixels) return;
        const box = event.currentTarget.getBoundingClientRect();
        const across = (event.clientX - drag.current.x) / box.width;
        const down = (event.clientY - drag.current.y) / box.height;
        drag.current = { x: event.clientX, y: event.clientY };
        setSight((now) => moved(now, -across / now.scale, -down / now.scale));
      }}
      onPointerUp={(event) => {
        const box = event.currentTarget.getBoundingClientRect();
        drag.current = null;
        if (!pixels) return;
        const off = (at: number, length: number) => at / length - 0.5;
        const across = (off(event.clientX - box.left, box.width) * DETAIL_PX) / Math.max(width, 1);
        const down = (off(event.clientY - box.top, box.height) * DETAIL_PX) / Math.max(height, 1);
        setSight((now) => moved(now, across, down));
      }}
    >
      {pixels ? (
        <img
          src={`/api/pictures/${picture}/detail?x=${rounded(sight.x, 3)}&y=${rounded(sight.y, 3)}&side_px=${DETAIL_PX}`}
          alt=""
          draggable={false}
          className="absolute inset-0 h-full w-full object-contain [image-rendering:pixelated]"
        />
      ) : (
        <img
          src={`/api/pictures/${picture}/preview`}
          alt=""
          draggable={false}
          className="absolute h-full w-full object-contain"
          style={{
            transformOrigin: "0 0",
            transform: `scale(${sight.scale}) translate(${100 * (0.5 / sight.scale - sight.x)}%, ${100 * (0.5 / sight.scale - sight.y)}%)`,
          }}
        />
      )}
    </div>
  );
}

/** Zoomed about the middle of the view. */
export const zoomed = (sight: Sight, by: number): Sight =>
  kept({ ...sight, scale: sight.scale * by });

/** Moved by shares of the frame. */
export const moved = (sight: Sight, across: number, down: number): Sight =>
  kept({ ...sight, x: sight.x + across, y: sight.y + down });

/** Within the frame: no further out than whole, nothing beyond its edges in sight. */
function kept(sight: Sight): Sight {
  const scale = Math.min(MOST, Math.max(1, sight.scale));
  const edge = 0.5 / scale;
  const within = (at: number) => Math.min(1 - edge, Math.max(edge, at));
  return { scale, x: within(sight.x), y: within(sight.y) };
}
