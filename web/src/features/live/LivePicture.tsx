import { type PointerEvent, useEffect, useRef } from "react";

import type { SpotBody } from "../../api/client";
import { fixed } from "../../ui/numbers";
import { RoleGlyph } from "../sheet/frame/RoleGlyph";
import { movedSpot } from "../sheet/frame/spots";
import { LevelLine } from "./LevelLine";
import type { Marks } from "./marks";
import { useMarks } from "./useMarks";
import type { LiveView } from "./queries";

const GLYPH = 10;
const TAP_PX = 10;

interface Props {
  stream: MediaStream | null;
  picture: string | null;
  view: LiveView | null;
  spots: SpotBody[];
  chosen: string | null;
  marks: Marks;
  onPoint: (x: number, y: number) => void;
  onChoose: (id: string) => void;
  onMove: (spot: SpotBody) => void;
}

/** What the camera sees, with the spots on it and what is lost marked. */
export function LivePicture(props: Props) {
  const { stream, picture, view, spots, chosen, marks, onPoint, onChoose, onMove } = props;
  const video = useRef<HTMLVideoElement>(null);
  const shown = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!video.current) return;
    video.current.srcObject = stream;
    if (stream) void video.current.play().catch(() => undefined);
  }, [stream]);
  const canvas = useMarks(shown, view, marks);
  const began = useRef({ x: 0, y: 0 });
  const point = (event: PointerEvent<HTMLDivElement>) => {
    const { x, y } = began.current;
    // A finger that scrolls the page does not point.
    if (Math.hypot(event.clientX - x, event.clientY - y) > TAP_PX) return;
    if (event.target instanceof Element && event.target.closest("button")) return;
    const box = event.currentTarget.getBoundingClientRect();
    onPoint((event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height);
  };
  return (
    <div
      ref={shown}
      className="surround relative mx-auto w-full overflow-hidden"
      onPointerDown={(event) => {
        began.current = { x: event.clientX, y: event.clientY };
      }}
      onPointerUp={point}
    >
      {stream ? (
        <video ref={video} muted playsInline className="block w-full" aria-label="Camera" />
      ) : (
        picture && <img src={picture} alt="Camera" className="block w-full" />
      )}
      <canvas ref={canvas} className="pointer-events-none absolute inset-0 h-full w-full" />
      {marks.level && <LevelLine />}
      {spots.map((spot) => {
        const tone = view?.tones.find((each) => each.id === spot.id);
        const reading = view?.readings.find((each) => each.id === spot.id);
        return (
          <button
            key={spot.id}
            type="button"
            aria-label={`Spot ${spot.name || spot.id}`}
            aria-pressed={chosen === spot.id}
            className="absolute grid size-11 -translate-x-1/2 -translate-y-1/2 place-items-center text-white"
            style={{ left: `${spot.x * 100}%`, top: `${spot.y * 100}%` }}
            onClick={() => onChoose(spot.id)}
            onKeyDown={(event) => {
              const moved = movedSpot(spot, event.key, event.shiftKey);
              if (!moved) return;
              event.preventDefault();
              onMove(moved);
            }}
          >
            <svg
              viewBox="-14 -14 28 28"
              className="size-7 overflow-visible"
              fill="none"
              stroke="currentColor"
              style={{ filter: "drop-shadow(0 0 2px black)" }}
            >
              <RoleGlyph role={spot.role} size={GLYPH} />
              {chosen === spot.id && <circle r={16} strokeWidth={2.5} />}
            </svg>
            <span className="pointer-events-none absolute top-9 rounded-xs bg-black/65 px-1 text-[0.85rem] whitespace-nowrap tabular-nums">
              {reading?.ev100 == null ? (tone?.words ?? "…") : `EV ${fixed(reading.ev100, 1)}`}
            </span>
          </button>
        );
      })}
    </div>
  );
}
