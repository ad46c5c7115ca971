import { type PointerEvent, useState } from "react";

import { Preview } from "../../ui/Preview";

interface Props {
  before: string;
  after: string;
}

/** The take before and the last one, one over the other: a finger on the picture moves the edge. */
export function BeforeAfter({ before, after }: Props) {
  const [edge, setEdge] = useState(50);
  const wipe = (event: PointerEvent<HTMLDivElement>) => {
    if (event.pointerType === "mouse" && event.buttons === 0) return;
    const box = event.currentTarget.getBoundingClientRect();
    setEdge(Math.min(100, Math.max(0, (100 * (event.clientX - box.left)) / box.width)));
  };
  return (
    <figure aria-label="Before and after">
      <div
        className="surround relative touch-pan-y overflow-hidden rounded select-none"
        onPointerDown={wipe}
        onPointerMove={wipe}
      >
        <Preview picture={after} alt="Last take" className="block w-full" />
        <div
          aria-hidden="true"
          className="absolute inset-0"
          style={{ clipPath: `inset(0 ${100 - edge}% 0 0)` }}
        >
          <Preview picture={before} alt="" className="block h-full w-full object-cover" />
        </div>
        <span
          aria-hidden="true"
          className="absolute inset-y-0 w-0.5 bg-white"
          style={{ left: `${edge}%` }}
        />
      </div>
      <label className="mt-1 flex min-h-11 items-center gap-3 text-soft">
        Before
        <input
          type="range"
          aria-label="Before and after"
          className="min-h-11 min-w-0 flex-1 accent-accent"
          min={0}
          max={100}
          value={edge}
          onChange={(event) => setEdge(Number(event.target.value))}
        />
        After
      </label>
    </figure>
  );
}
