import { type RefObject, useCallback, useEffect, useRef } from "react";

const SETTLED_MS = 250;

/** Brings something into view once the dialog it was chosen in has let go of the page. */
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
    const timer = window.setTimeout(settled, SETTLED_MS);
    return () => window.clearTimeout(timer);
  }, [open]);
  return { target, show: useCallback(() => void (asked.current = true), []) };
}
