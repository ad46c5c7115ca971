import type { SpotBody } from "../../../api/client";
import type { Size } from "../useSize";

const ZOOM = 3;
const RADIUS_PX = 64;
/** A thumb covers about this much around the point it touches. */
const OVER_THUMB_PX = 56;

interface Props {
  picture: string;
  spot: SpotBody;
  /** The picture as drawn, in pixels of the page. */
  drawn: Size;
  /** Radius of the spot as drawn. */
  radius: number;
}

/** What is under the thumb, shown larger above it; beside it along the upper edge. */
export function Loupe({ picture, spot, drawn, radius }: Props) {
  const [x, y] = [spot.x * drawn.width, spot.y * drawn.height];
  const above = y - OVER_THUMB_PX - 2 * RADIUS_PX;
  const beside = x > drawn.width / 2 ? -OVER_THUMB_PX - 2 * RADIUS_PX : OVER_THUMB_PX;
  const left = above >= 0 ? x - RADIUS_PX : x + beside;
  const top = above >= 0 ? above : Math.max(0, y - RADIUS_PX);
  const shift = (value: number) => RADIUS_PX - value * ZOOM;
  return (
    <div
      aria-hidden="true"
      data-loupe
      className="pointer-events-none absolute z-20 overflow-hidden rounded-full border-3 border-(--mark) shadow-lg"
      style={{
        left,
        top,
        width: 2 * RADIUS_PX,
        height: 2 * RADIUS_PX,
        backgroundColor: "#777",
        backgroundImage: `url(/api/pictures/${picture}/preview)`,
        backgroundRepeat: "no-repeat",
        backgroundSize: `${drawn.width * ZOOM}px ${drawn.height * ZOOM}px`,
        backgroundPosition: `${shift(x)}px ${shift(y)}px`,
      }}
    >
      <svg
        viewBox={`${-RADIUS_PX} ${-RADIUS_PX} ${2 * RADIUS_PX} ${2 * RADIUS_PX}`}
        className="h-full w-full"
      >
        {["#000", "var(--mark)"].map((stroke, place) => (
          <circle
            key={stroke}
            r={radius * ZOOM}
            fill="none"
            stroke={stroke}
            strokeWidth={place === 0 ? 4 : 2}
          />
        ))}
      </svg>
    </div>
  );
}
