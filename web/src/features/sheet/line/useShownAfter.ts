import { type RefObject, useCallback, useEffect, useRef } from "react";

const SETTLED_MS = 250;
const GROWN_MS = 2500;

/** Brings something into view once the dialog it was chosen in has released the page. */
export function useShownAfter(open: boolean): {
  target: RefObject<HTMLElement | null>;
  show: () => void;
} {
  const target = useRef<HTMLElement>(null);
  const asked = useRef(false);
  useEffect(() => {
    if (open || !asked.current) return undefined;
    asked.current = false;
    const settled = () => target.current?.scrollIntoView({ block: "start" });
    // Drawn only now it may grow: what is in view is to be its beginning all the same.
    const growing = new ResizeObserver(settled);
    const timer = window.setTimeout(() => {
      settled();
      if (target.current) growing.observe(target.current);
    }, SETTLED_MS);
    const end = window.setTimeout(() => growing.disconnect(), GROWN_MS);
    return () => {
      window.clearTimeout(timer);
      window.clearTimeout(end);
      growing.disconnect();
    };
  }, [open]);
  return { target, show: useCallback(() => void (asked.current = true), []) };
}
