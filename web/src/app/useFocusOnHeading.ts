import { useEffect, useRef } from "react";
import { useLocation } from "wouter";

const LOOK_EVERY_MS = 60;
const LOOK_FOR_MS = 6000;

/**
 * After a link leads to another page the focus is on its heading, so that a screen reader begins
 * there. Pages come late: it is looked for until it is there, or until the reader goes elsewhere.
 */
export function useFocusOnHeading(): void {
  const [path] = useLocation();
  const before = useRef(path);
  const left = useRef<HTMLElement | null>(null);
  useEffect(() => {
    const leave = () => {
      left.current = heading();
    };
    document.addEventListener("click", leave, true);
    return () => document.removeEventListener("click", leave, true);
  }, []);
  useEffect(() => {
    if (before.current === path) return undefined;
    before.current = path;
    const begun = Date.now();
    const timer = window.setInterval(() => {
      const found = heading();
      const isOver = Date.now() - begun > LOOK_FOR_MS || !isFree(document.activeElement);
      if (!isOver && (found === null || found === left.current)) return;
      window.clearInterval(timer);
      if (isOver || found === null) return;
      if (!found.hasAttribute("tabindex")) found.tabIndex = -1;
      left.current = found;
      found.focus({ preventScroll: true });
    }, LOOK_EVERY_MS);
    return () => window.clearInterval(timer);
  }, [path]);
}

const heading = () => document.querySelector<HTMLElement>("main h1, header h1");

/** Whether nobody is at work in the new page: what has the focus is gone, or led here. */
const isFree = (element: Element | null) =>
  element === null || element === document.body || element.closest("main") === null;
