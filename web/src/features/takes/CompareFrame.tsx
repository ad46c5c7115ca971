import { useEffect, useRef } from "react";
import { rounded } from "../../ui/numbers";

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

const MOST = 16;
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
      setSight((now) => kept({ ...now, scale: now.scale * by }));
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
      className="surround relative w-full touch-none overflow-hidden rounded"
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
        setSight((now) =>
          kept({ ...now, x: now.x - across / now.scale, y: now.y - down / now.scale }),
        );
      }}
      onPointerUp={(event) => {
        const box = event.currentTarget.getBoundingClientRect();
        drag.current = null;
        if (!pixels) return;
        const off = (at: number, length: number) => at / length - 0.5;
        const across = (off(event.clientX - box.left, box.width) * DETAIL_PX) / Math.max(width, 1);
        const down = (off(event.clientY - box.top, box.height) * DETAIL_PX) / Math.max(height, 1);
        setSight((now) => kept({ ...now, x: now.x + across, y: now.y + down }));
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

/** Within the frame: no further out than whole, nothing beyond its edges in sight. */
function kept(sight: Sight): Sight {
  const scale = Math.min(MOST, Math.max(1, sight.scale));
  const edge = 0.5 / scale;
  const within = (at: number) => Math.min(1 - edge, Math.max(edge, at));
  return { scale, x: within(sight.x), y: within(sight.y) };
}
