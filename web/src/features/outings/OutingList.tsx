import { useWindowVirtualizer, type VirtualItem } from "@tanstack/react-virtual";
import { useCallback, useEffect, useLayoutEffect, useRef, useState } from "react";

import type { OutingView } from "../../api/client";
import { OutingBoard } from "./OutingBoard";

const GUESSED_HEIGHT_PX = 520;
const GAP_PX = 24;

/** Where the list was left, so that coming back from a sheet shows the same place at once. */
const left: { offset: number; heights: VirtualItem[] } = { offset: 0, heights: [] };

interface Props {
  outings: OutingView[];
  /** Asked when the end of what is loaded comes into sight. */
  onEnd: () => void;
}

/** Boards of outings; only those near the window are on the page, and those taking pictures in. */
export function OutingList({ outings, onEnd }: Props) {
  const list = useRef<HTMLDivElement>(null);
  const [top, setTop] = useState(0);
  const [busy, setBusy] = useState<ReadonlySet<number>>(new Set());
  const markBusy = useCallback((id: number, isBusy: boolean) => {
    setBusy((all) => {
      if (all.has(id) === isBusy) return all;
      return new Set(isBusy ? [...all, id] : [...all].filter((busy) => busy !== id));
    });
  }, []);
  useLayoutEffect(() => setTop(list.current?.offsetTop ?? 0), []);
  const window_ = useWindowVirtualizer({
    count: outings.length,
    estimateSize: () => GUESSED_HEIGHT_PX,
    getItemKey: (index) => outings[index]?.id ?? index,
    gap: GAP_PX,
    overscan: 1,
    scrollMargin: top,
    initialOffset: left.offset,
    initialMeasurementsCache: left.heights,
    rangeExtractor: ({ startIndex, endIndex, overscan }) => {
      const shown = new Set<number>();
      const last = Math.min(outings.length - 1, endIndex + overscan);
      for (let index = Math.max(0, startIndex - overscan); index <= last; index++) shown.add(index);
      outings.forEach((outing, index) => busy.has(outing.id) && shown.add(index));
      return [...shown].sort((a, b) => a - b);
    },
  });
  useLayoutEffect(() => {
    if (left.offset > 0) window.scrollTo(0, left.offset);
  }, []);
  useEffect(
    () => () => {
      left.offset = window_.scrollOffset ?? 0;
      left.heights = window_.takeSnapshot();
    },
    [window_],
  );
  const items = window_.getVirtualItems();
  const lastShown = items[items.length - 1]?.index ?? -1;
  useEffect(() => {
    if (lastShown >= outings.length - 2) onEnd();
  }, [lastShown, outings.length, onEnd]);
  return (
    <div ref={list} className="relative" style={{ height: window_.getTotalSize() }}>
      {items.map((item) => {
        const outing = outings[item.index];
        if (!outing) return null;
        return (
          <div
            key={item.key}
            data-index={item.index}
            ref={window_.measureElement}
            className="absolute top-0 left-0 w-full"
            style={{ transform: `translateY(${item.start - top}px)` }}
          >
            <OutingBoard outing={outing} takesPaste={item.index === 0} onBusy={markBusy} />
          </div>
        );
      })}
    </div>
  );
}
