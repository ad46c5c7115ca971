import { useEffect, useRef, useState } from "react";

import type { LampDrawingPlan } from "../../api/client";
import { Button } from "../../ui/Button";
import { Select } from "../../ui/Field";
import { signal } from "../sheet/run/sounds";
import { fixed } from "../../ui/numbers";

const COUNT_DOWN_S = 3;

interface Props {
  planned: LampDrawingPlan;
  /** The hand drew the whole of it in so many seconds. */
  onMeasured: (seconds: number) => void;
}

/** The drawing counted through with sounds, and the hand timed over one drawing of it. */
export function Rehearsal({ planned, onMeasured }: Props) {
  const [frame, setFrame] = useState(0);
  const cues = (planned.passes[frame] ?? planned.passes[0])?.cues ?? [];
  const { now, start, stop } = useCues(cues);
  const [timing, setTiming] = useState<number | null>(null);
  const current = cues.filter((cue) => now !== null && cue.at_s <= now).at(-1);
  const tap = () => {
    if (timing === null) {
      setTiming(performance.now());
      return;
    }
    onMeasured((performance.now() - timing) / 1000);
    setTiming(null);
  };
  return (
    <section aria-label="Rehearsal" className="rounded border border-line bg-panel p-4">
      <h2 className="text-lg font-semibold">Rehearse</h2>
      {planned.passes.length > 1 && (
        <Select
          label="Frame"
          value={String(Math.min(frame, planned.passes.length - 1))}
          options={planned.passes.map((pass, at) => ({
            value: String(at),
            text: `${at + 1}: ${pass.colour} lamp, ${pass.time}`,
          }))}
          onChange={(chosen) => setFrame(Number(chosen))}
        />
      )}
      {now === null ? (
        <ol className="my-2 grid max-h-44 gap-0.5 overflow-y-auto text-[0.93rem] tabular-nums">
          {cues.map((cue, at) => (
            <li key={at} className="flex gap-3">
              <span className="w-14 text-right text-soft">{fixed(cue.at_s, 1)} s</span>
              {cue.words}
            </li>
          ))}
        </ol>
      ) : (
        <p role="timer" className="my-3 text-3xl font-semibold tabular-nums">
          {now < 0 ? `Starts in ${Math.ceil(-now)}` : (current?.words ?? "")}
          <span className="block text-base font-normal text-soft">
            {fixed(Math.max(0, now), 1)} s
          </span>
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        {now === null ? (
          <Button onClick={start}>Start countdown</Button>
        ) : (
          <Button onClick={stop}>Stop</Button>
        )}
        <Button look={timing === null ? "plain" : "main"} onClick={tap}>
          {timing === null ? "Time my hand" : "Done drawing"}
        </Button>
      </div>
      <p className="mt-2 text-[0.9rem] text-soft">
        {timing === null
          ? "Draw in the air. Press at the start and at the end to use your own speed."
          : "Draw now, then press."}
      </p>
    </section>
  );
}

type Cue = LampDrawingPlan["passes"][number]["cues"][number];

/** Seconds since the start, counted in from before; each cue sounds as it comes. */
function useCues(cues: Cue[]) {
  const [now, setNow] = useState<number | null>(null);
  const frame = useRef(0);
  const stop = () => {
    window.cancelAnimationFrame(frame.current);
    setNow(null);
  };
  useEffect(() => () => window.cancelAnimationFrame(frame.current), []);
  const start = () => {
    const begun = performance.now() + 1000 * COUNT_DOWN_S;
    let last = -COUNT_DOWN_S - 0.01;
    const end = cues.at(-1)?.at_s ?? 0;
    const tick = () => {
      const at = (performance.now() - begun) / 1000;
      const passed = cues.filter((cue) => cue.at_s > last && cue.at_s <= at);
      const counted = at < 0 && Math.floor(at) !== Math.floor(last);
      if (passed.length > 0 || counted)
        signal(passed.some((cue) => cue.sound !== "corner" && cue.sound !== "still"));
      last = at;
      if (at > end + 1) {
        setNow(null);
        return;
      }
      setNow(at);
      frame.current = window.requestAnimationFrame(tick);
    };
    tick();
  };
  return { now, start, stop };
}
