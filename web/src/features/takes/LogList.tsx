import { dayLabel, stampLabel } from "../../ui/numbers";
import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useLayoutEffect, useRef, useState } from "react";
import { Link } from "wouter";

import type { LogEntry } from "../../api/client";
import { Preview } from "../../ui/Preview";

const ROW_PX = 84;
const STATE: Record<LogEntry["state"], string> = { new: "", kept: "Kept", rejected: "Rejected" };

interface Props {
  entries: LogEntry[];
  chosen: ReadonlySet<number>;
  onToggle: (entry: LogEntry) => void;
  /** Asked when the end of what is loaded comes into sight. */
  onEnd: () => void;
}

/** Takes in a long list; only those near the window are on the page. */
export function LogList({ entries, chosen, onToggle, onEnd }: Props) {
  const list = useRef<HTMLUListElement>(null);
  const [top, setTop] = useState(0);
  useLayoutEffect(() => setTop(list.current?.offsetTop ?? 0), [entries.length]);
  const rows = useWindowVirtualizer({
    count: entries.length,
    estimateSize: () => ROW_PX,
    overscan: 6,
    scrollMargin: top,
  });
  const items = rows.getVirtualItems();
  const last = items[items.length - 1]?.index ?? -1;
  useEffect(() => {
    if (entries.length > 0 && last >= entries.length - 8) onEnd();
  }, [last, entries.length, onEnd]);
  return (
    <ul
      ref={list}
      aria-label="Logbook"
      className="relative"
      style={{ height: rows.getTotalSize() }}
    >
      {items.map((item) => {
        const entry = entries[item.index];
        return (
          entry && (
            <li
              key={entry.id}
              className="absolute top-0 left-0 w-full"
              style={{ height: ROW_PX, transform: `translateY(${item.start - top}px)` }}
            >
              <Row entry={entry} chosen={chosen.has(entry.id)} onToggle={() => onToggle(entry)} />
            </li>
          )
        );
      })}
    </ul>
  );
}

interface RowProps {
  entry: LogEntry;
  chosen: boolean;
  onToggle: () => void;
}

function Row({ entry, chosen, onToggle }: RowProps) {
  const words = [entry.note, entry.why, entry.keywords].filter(Boolean).join(" · ");
  return (
    <div
      className={`flex h-[5rem] items-center gap-3 rounded border px-2 ${chosen ? "border-accent bg-accent-soft" : "border-line bg-panel"}`}
    >
      <label className="grid h-12 w-[44px] shrink-0 cursor-pointer place-items-center">
        <input
          type="checkbox"
          className="h-5 w-5 accent-(--accent)"
          checked={chosen}
          aria-label={`Choose ${entry.label || entry.file_name} of ${entry.sheet_title}`}
          onChange={onToggle}
        />
      </label>
      <span
        className={`surround block h-16 w-[min(5.5rem,22vw)] shrink-0 overflow-hidden rounded-xs ${entry.state === "rejected" ? "opacity-50" : ""}`}
      >
        <Preview picture={entry.picture} alt="" className="h-full w-full object-cover" lazy />
      </span>
      {/* Beside each other where there is room, else one under the other. */}
      <span className="flex min-w-0 flex-1 items-center gap-3 leading-tight max-[640px]:grid max-[640px]:gap-0.5">
        <span className="grid w-40 shrink-0 max-[640px]:w-full">
          <b className="truncate tabular-nums">{entry.label || "settings unknown"}</b>
          <span className="truncate text-[0.86rem] text-soft max-[640px]:hidden">
            {[entry.lens, entry.raw_picture && "RAW too"].filter(Boolean).join(", ")}
          </span>
          <span className="text-[0.86rem] text-soft tabular-nums max-[640px]:hidden">
            {stampLabel(entry.shot_at)}
          </span>
        </span>
        <span className="grid min-w-0 flex-1">
          <Link
            href={`/sheets/${entry.sheet_id}`}
            className="-my-2.5 flex min-h-11 items-center truncate font-semibold underline"
          >
            {entry.sheet_title}
          </Link>
          <span className="truncate text-[0.9rem] text-soft max-[640px]:hidden">
            {entry.outing_title}
          </span>
          <span className="truncate text-[0.9rem] min-[1000px]:hidden">
            <span className="text-soft tabular-nums min-[641px]:hidden">
              {dayLabel(entry.shot_at)}{" "}
            </span>
            {words}
          </span>
        </span>
        <span className="line-clamp-3 min-w-0 flex-1 text-[0.92rem] max-[999px]:hidden">
          {words}
        </span>
      </span>
      <span className="grid w-20 shrink-0 justify-items-end text-right leading-tight max-[480px]:hidden">
        <b>{STATE[entry.state]}</b>
      </span>
    </div>
  );
}
