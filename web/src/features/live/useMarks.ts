import { type RefObject, useEffect, useRef } from "react";

import { type Marks, markedPixels } from "./marks";
import type { LiveView } from "./queries";

const MARKED_PX = 160;

/** A canvas over the picture with its marks, drawn anew with every reading. */
export function useMarks(
  shown: RefObject<HTMLDivElement | null>,
  view: LiveView | null,
  marks: Marks,
): RefObject<HTMLCanvasElement | null> {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const source = shown.current?.querySelector("video, img");
    const target = canvas.current;
    if (!target || !view || !(source instanceof HTMLElement) || source.clientHeight === 0) return;
    const height = Math.round((MARKED_PX * source.clientHeight) / source.clientWidth);
    target.width = MARKED_PX;
    target.height = height;
    const context = target.getContext("2d", { willReadFrequently: true });
    if (!context) return;
    context.drawImage(source as HTMLVideoElement | HTMLImageElement, 0, 0, MARKED_PX, height);
    const frame = context.getImageData(0, 0, MARKED_PX, height);
    const codes = { clipped: view.clipped_code, blocked: view.blocked_code };
    context.putImageData(markedPixels(frame, codes, marks), 0, 0);
    if (!marks.grid) return;
    context.fillStyle = "rgb(255 255 255 / 0.6)";
    for (const share of [1 / 3, 2 / 3]) {
      context.fillRect(Math.round(share * MARKED_PX), 0, 1, height);
      context.fillRect(0, Math.round(share * height), MARKED_PX, 1);
    }
  }, [shown, view, marks]);
  return canvas;
}
