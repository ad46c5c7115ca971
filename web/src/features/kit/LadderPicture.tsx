import { type PointerEvent, useState } from "react";

import type { Patch, Rung } from "./useLadder";

interface Props {
  rungs: readonly Rung[];
  patch: Patch;
  onPlace: (patch: Patch) => void;
}
const SIZES = [0.03, 0.06, 0.12];

/** One picture of the ladder, and the patch that is measured in all of them. */
export function LadderPicture({ rungs, patch, onPlace }: Props) {
  const [at, setAt] = useState<number | null>(null);
  const [shape, setShape] = useState(4 / 3);
  const shown = rungs[at ?? Math.floor(rungs.length / 2)];
  const place = (event: PointerEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const x = (event.clientX - box.left) / box.width;
    const y = (event.clientY - box.top) / box.height;
    onPlace({ ...patch, x: inside(x), y: inside(y) });
  };
  // The radius is a share of the shorter side.
  const across = 200 * patch.r * Math.min(1, 1 / shape);
  return (
    <div className="grid content-start gap-2">
      <button
        type="button"
        className="relative block w-full cursor-crosshair overflow-hidden rounded"
        aria-label="Choose the patch to measure"
        onPointerDown={place}
        onKeyDown={(event) => {
          const by = {
            ArrowLeft: [-1, 0],
            ArrowRight: [1, 0],
            ArrowUp: [0, -1],
            ArrowDown: [0, 1],
          }[event.key];
          if (!by) return;
          event.preventDefault();
          const [dx = 0, dy = 0] = by;
          onPlace({ ...patch, x: inside(patch.x + dx / 100), y: inside(patch.y + dy / 100) });
        }}
      >
        {shown?.look && (
          <img
            src={shown.look.preview}
            alt={shown.file.name}
            className="block w-full"
            style={{ filter: "var(--picture-filter)" }}
            onLoad={(event) => {
              const { naturalWidth, naturalHeight } = event.currentTarget;
              setShape(naturalWidth / naturalHeight);
            }}
          />
        )}
        <span
          aria-hidden
          className="absolute -translate-x-1/2 -translate-y-1/2 rounded-full border-[3px] border-white outline outline-2 outline-black"
          style={{
            left: `${100 * patch.x}%`,
            top: `${100 * patch.y}%`,
            width: `${across}%`,
            aspectRatio: 1,
          }}
        />
      </button>
      <div className="flex flex-wrap items-center gap-3 text-[0.9rem]">
        <label className="flex min-h-11 flex-1 items-center gap-2">
          Picture
          <input
            type="range"
            aria-label="Picture"
            className="h-11 flex-1 accent-(--accent)"
            min={0}
            max={Math.max(0, rungs.length - 1)}
            value={at ?? Math.floor(rungs.length / 2)}
            onChange={(event) => setAt(Number(event.target.value))}
          />
        </label>
        <label className="flex items-center gap-2">
          Patch
          <select
            className="field"
            aria-label="Patch size"
            value={patch.r}
            onChange={(event) => onPlace({ ...patch, r: Number(event.target.value) })}
          >
            {SIZES.map((r, index) => (
              <option key={r} value={r}>
                {["small", "usual", "large"][index]}
              </option>
            ))}
          </select>
        </label>
      </div>
    </div>
  );
}

const inside = (share: number) => Math.max(0, Math.min(1, share));
