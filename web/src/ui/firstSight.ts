import { useEffect, useState } from "react";

const AT_THE_LATEST_MS = 4000;

let seen: () => void = () => undefined;
/** Comes true once what a page shows first has been painted; what nobody waits for is then fetched. */
export const firstSight = new Promise<void>((resolve) => {
  seen = resolve;
  window.addEventListener("load", () => window.setTimeout(resolve, AT_THE_LATEST_MS));
});

/** False until what was drawn first has been seen; then what can follow it is drawn. */
export function useAfterFirstSight(): boolean {
  const [isSeen, setSeen] = useState(false);
  useEffect(() => {
    // A frame is painted after this callback: the timer within it runs once that is done.
    let timer: number | undefined;
    const frame = window.requestAnimationFrame(() => {
      timer = window.setTimeout(() => {
        setSeen(true);
        seen();
      });
    });
    return () => {
      window.cancelAnimationFrame(frame);
      window.clearTimeout(timer);
    };
  }, []);
  return isSeen;
}
