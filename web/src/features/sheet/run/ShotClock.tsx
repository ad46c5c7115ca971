import { useCallback, useEffect, useRef, useState } from "react";

import type { RunStep } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { DarkCover } from "./DarkCover";
import { signal, speak, tick } from "./sounds";
import { clockTime, fixed } from "../../../ui/numbers";

interface Moment {
  words: string;
  seconds: number;
  /** Share of what is counted that is over, 0 to 1. */
  share: number;
}

const TICK_MS = 100;
const LONG_S = 60;

/** Counts down to the shot and up while the shutter is open, frame after frame. */
export function ShotClock({ step, name }: { step: RunStep; name: string }) {
  const { begun, begin, stop } = useBegun(name);
  const [now, setNow] = useState(0);
  const spoken = useRef("");
  const waits = step.wait_s ?? 0;
  const open = step.expose_s ?? 0;
  const every = step.every_s ?? open;
  const end = waits + every * (step.frames - 1) + Math.max(open, step.frames > 1 ? every : open);
  useEffect(() => {
    if (begun === null) return undefined;
    const timer = window.setInterval(() => {
      const seconds = (Date.now() - begun) / 1000;
      setNow(seconds);
      const mark = markAt(seconds, waits, end, step.remind_s ?? null);
      if (mark !== spoken.current) {
        spoken.current = mark;
        sound(mark);
      }
      if (seconds >= end) stop();
    }, TICK_MS);
    return () => window.clearInterval(timer);
  }, [begun, stop, waits, end, step.remind_s]);
  if (end === 0) return null;
  const start = () => {
    spoken.current = "";
    setNow(0);
    begin();
  };
  const moment = begun === null ? null : at(now, { waits, open, every, frames: step.frames });
  return (
    <div className="mt-2 grid gap-2">
      {step.frames > 1 && (
        <p className="text-soft tabular-nums">
          {begun === null ? "Started now, it ends at " : "Ends at "}
          {clockIn(begun === null ? end : end - now)}
        </p>
      )}
      {moment && (
        <div role="timer" aria-label={moment.words} className="grid gap-1">
          <p className="text-5xl leading-none font-bold tabular-nums">
            {fixed(moment.seconds, 1)}
            <span className="ml-2 text-lg font-normal">{moment.words}</span>
          </p>
          <div className="h-3 overflow-hidden rounded bg-sunk">
            <div className="h-full bg-accent" style={{ width: `${100 * moment.share}%` }} />
          </div>
        </div>
      )}
      {moment && end - waits > LONG_S && (
        <DarkCover words={`${numberOf(moment.words)}until ${clockIn(end - now)}`} />
      )}
      <Button look="main" className="min-h-14 text-lg" onClick={begun === null ? start : stop}>
        {begun !== null ? "Stop" : waits > 0 ? `Start ${waits} s` : "Start timer"}
      </Button>
    </div>
  );
}

/** When a clock was begun, kept on this device: a reload or another app does not stop it. */
function useBegun(name: string) {
  const key = `oxlen-clock-${name}`;
  const [begun, setBegun] = useState(() => Number(localStorage.getItem(key)) || null);
  const begin = () => {
    const now = Date.now();
    localStorage.setItem(key, String(now));
    setBegun(now);
  };
  const stop = useCallback(() => {
    localStorage.removeItem(key);
    setBegun(null);
  }, [key]);
  return { begun, begin, stop };
}

/** What a moment sounds like, and the word that is spoken at it. */
function sound(mark: string): void {
  const [kind, count] = mark.split("-");
  if (kind === "beat") tick();
  else if (mark !== "") signal(mark === "end" || mark === "open");
  if (kind === "in") speak(count ?? "");
  if (kind === "open") speak("open");
  if (kind === "end") speak("done");
  if (kind === "look") speak("check the phone");
}

/** Which frame it is, to begin a sentence with; nothing where there is only one. */
const numberOf = (words: string) => {
  const number = words.split(", ")[1];
  return number ? `F${number.slice(1)}, ` : "Counting ";
};

/** What the clock will say in so many seconds. */
const clockIn = (seconds: number) => clockTime(Date.now() + 1000 * seconds);

/** What is to be heard at a moment: the last three seconds, the opening, each second of a short
 * exposure, reminders, the end. */
function markAt(seconds: number, waits: number, end: number, every: number | null): string {
  if (seconds >= end) return "end";
  const left = waits - seconds;
  if (left > 0) return left <= 3 ? `in-${Math.ceil(left)}` : "";
  const reminder = every === null ? 0 : Math.floor(-left / every);
  if (reminder > 0) return `look-${reminder}`;
  const beat = Math.floor(-left);
  if (beat > 0 && end - waits <= LONG_S) return `beat-${beat}`;
  return waits > 0 ? "open" : "";
}

function at(
  seconds: number,
  of: { waits: number; open: number; every: number; frames: number },
): Moment {
  if (seconds < of.waits)
    return {
      words: "s until the shot",
      seconds: of.waits - seconds,
      share: seconds / of.waits,
    };
  const since = seconds - of.waits;
  const frame = of.every > 0 ? Math.min(of.frames - 1, Math.floor(since / of.every)) : 0;
  const within = since - frame * of.every;
  const number = of.frames > 1 ? `, frame ${frame + 1} of ${of.frames}` : "";
  if (within < of.open)
    return { words: `s open${number}`, seconds: within, share: within / of.open };
  return { words: `s pause${number}`, seconds: of.every - within, share: 1 };
}
