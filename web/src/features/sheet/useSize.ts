import { type RefObject, useEffect, useRef, useState } from "react";

export interface Size {
  width: number;
  height: number;
}

/** The size of an element as laid out, so that a drawing fills it with text at its true size. */
export function useSize<T extends Element>(first: Size): [RefObject<T | null>, Size] {
  const element = useRef<T>(null);
  const [size, setSize] = useState(first);
  useEffect(() => {
    const watched = element.current;
    if (!watched) return undefined;
    const observer = new ResizeObserver(() => {
      const { width, height } = watched.getBoundingClientRect();
      if (width > 0 && height > 0) setSize({ width, height });
    });
    observer.observe(watched);
    return () => observer.disconnect();
  }, []);
  return [element, size];
}
