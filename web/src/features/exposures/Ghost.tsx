import { useEffect, useRef, useState } from "react";

import type { Take } from "../../api/client";
import { Button } from "../../ui/Button";
import { Preview } from "../../ui/Preview";

interface Props {
  picture: string | null;
  takes: Take[];
  chosen: number[];
}

/** The frame shot before as a ghost over the picture, or over this phone's live camera. */
export function Ghost({ picture, takes, chosen }: Props) {
  const [strength, setStrength] = useState(50);
  const { video, isLive, problem, start, stop } = useLive();
  const last = takes.find((take) => take.id === chosen.at(-1)) ?? takes.at(-1);
  if (!last)
    return (
      <p className="rounded border border-dashed border-strong p-4 text-soft">
        After the first frame is added to the takes, it shows here as an overlay to compose the
        next.
      </p>
    );
  return (
    <section aria-label="Overlay" className="rounded border border-line bg-panel p-3">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="mr-auto font-semibold">Overlay of the previous frame</h2>
        <label className="flex items-center gap-2 text-soft">
          Strength
          <input
            type="range"
            min={0}
            max={100}
            value={strength}
            className="h-8 accent-(--accent)"
            onChange={(event) => setStrength(event.target.valueAsNumber)}
          />
        </label>
        <Button onClick={() => (isLive ? stop() : void start())}>
          {isLive ? "Camera off" : "Use camera"}
        </Button>
      </div>
      {problem && <p role="alert">{problem}</p>}
      <div className="surround relative mt-2 aspect-4/3 max-h-[46dvh] overflow-hidden rounded">
        <video
          ref={video}
          playsInline
          muted
          className={isLive ? "absolute inset-0 h-full w-full object-contain" : "hidden"}
        />
        {!isLive && picture && (
          <Preview
            picture={picture}
            alt="The sheet’s picture"
            className="absolute inset-0 h-full w-full object-contain"
          />
        )}
        <div className="absolute inset-0" style={{ opacity: strength / 100 }}>
          <Preview
            picture={last.picture}
            alt="Previous frame"
            className="h-full w-full object-contain"
          />
        </div>
      </div>
    </section>
  );
}

function useLive() {
  const video = useRef<HTMLVideoElement>(null);
  const stream = useRef<MediaStream | null>(null);
  const [isLive, setLive] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const stop = () => {
    for (const track of stream.current?.getTracks() ?? []) track.stop();
    stream.current = null;
    setLive(false);
  };
  useEffect(() => stop, []);
  const start = async () => {
    try {
      const found = await navigator.mediaDevices.getUserMedia({
        video: { facingMode: "environment" },
      });
      stream.current = found;
      if (video.current) {
        video.current.srcObject = found;
        await video.current.play();
      }
      setLive(true);
      setProblem(null);
    } catch {
      setProblem("No camera here. The overlay is shown on the picture instead.");
    }
  };
  return { video, isLive, problem, start, stop };
}
