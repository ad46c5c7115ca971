import { useState } from "react";

import type { Stack } from "../../api/client";
import { Segmented } from "../../ui/Segmented";

type View = "wipe" | "first" | "all";

/** The picture as it comes together, or the result beside one frame of it. */
export function LookPart({ set }: { set: Stack }) {
  const [shown, setShown] = useState<View>("wipe");
  const [wipe, setWipe] = useState(50);
  const grows = set.state === "working" && set.has_preview;
  const result = set.result_picture ? `/api/pictures/${set.result_picture}/preview` : null;
  const growing = grows
    ? `/api/stacks/${set.id}/preview?at=${Math.round(100 * (set.progress?.share ?? 0))}`
    : null;
  const first = set.frames > 0 ? `/api/stacks/${set.id}/first?of=${set.names[0]}` : null;
  const now = growing ?? (set.state === "done" ? result : null);
  if (!first)
    return (
      <div className="surround grid aspect-4/3 place-items-center rounded p-6 text-center text-white">
        The picture appears here while the frames are stacked.
      </div>
    );
  if (!now)
    return (
      <figure className="surround rounded p-2">
        <img src={first} alt="First frame" className="mx-auto max-h-[64dvh] object-contain" />
        <figcaption className="pt-1 text-center text-white">First frame</figcaption>
      </figure>
    );
  return (
    <div className="grid gap-2">
      <div className="surround relative rounded p-2">
        <div className="relative mx-auto w-fit">
          <img
            src={shown === "first" ? first : now}
            alt={shown === "first" ? "One frame" : "Stacked frames"}
            className="max-h-[60dvh] object-contain"
          />
          {shown === "wipe" && set.state === "done" && (
            <>
              <img
                src={first}
                alt=""
                aria-hidden
                className="absolute inset-0 h-full w-full object-contain"
                style={{ clipPath: `inset(0 ${100 - wipe}% 0 0)` }}
              />
              <span
                aria-hidden
                className="absolute inset-y-0 w-0.5 bg-white"
                style={{ left: `${wipe}%` }}
              />
            </>
          )}
        </div>
      </div>
      {set.state === "done" && (
        <div className="flex flex-wrap items-center gap-4">
          <div className="w-72">
            <Segmented
              label="View"
              value={shown}
              options={[
                { value: "wipe", text: "Wipe" },
                { value: "first", text: "One frame" },
                { value: "all", text: `All ${set.result?.frames ?? ""}` },
              ]}
              onChange={setShown}
            />
          </div>
          {shown === "wipe" && (
            <label className="flex min-w-60 flex-1 items-center gap-3 text-soft">
              Divider
              <input
                type="range"
                min={0}
                max={100}
                value={wipe}
                className="h-8 flex-1 accent-(--accent)"
                onChange={(event) => setWipe(event.target.valueAsNumber)}
              />
            </label>
          )}
        </div>
      )}
    </div>
  );
}
