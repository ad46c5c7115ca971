import { useEffect, useRef, useState } from "react";

import { Segmented } from "../../ui/Segmented";
import { Steps } from "../shop/Steps";
import { useShop } from "../shop/useShop";

const EVERY = [
  { value: "0", text: "By hand" },
  { value: "5", text: "Every 5 s" },
  { value: "10", text: "10 s" },
  { value: "20", text: "20 s" },
] as const;
type Every = (typeof EVERY)[number]["value"];

interface Props {
  sheetId: number;
  isBusy: boolean;
  shoot: () => Promise<void>;
}

/** In a shop series: the thing that is shot next, large, and shooting without hands. */
export function ThingBand({ sheetId, isBusy, shoot }: Props) {
  const { shop, run } = useShop(sheetId);
  const [every, setEvery] = useState<Every>("0");
  const next = shop?.next ?? null;
  const isRunning = every !== "0" && next !== null && !isBusy;
  const left = useCountdown(isRunning ? Number(every) : 0, shoot);
  if (!shop || shop.things.length === 0) return null;
  return (
    <section
      aria-label="Next thing"
      className="grid gap-2 rounded border-2 border-strong bg-panel p-3"
    >
      <p className="flex flex-wrap items-baseline gap-x-3" aria-live="polite">
        <b className="text-2xl leading-tight">
          {next ? [next.number, next.name].filter(Boolean).join(" ") : "Everything is shot."}
        </b>
        {next && (
          <span className="text-soft tabular-nums">
            {next.position} of {shop.things.length}
            {shop.options.views.length > 1 && `, ${next.view}`}
          </span>
        )}
        {left > 0 && <b className="ml-auto text-2xl tabular-nums">{left} s</b>}
      </p>
      {next && (
        <div className="flex flex-wrap items-center gap-2">
          <Steps shop={shop} sheet={sheetId} run={run} />
          <span className="min-w-64 flex-1">
            <Segmented label="Interval" value={every} options={EVERY} onChange={setEvery} />
          </span>
        </div>
      )}
    </section>
  );
}

/** Seconds until something is done, again and again; 0 while it is not counting. */
function useCountdown(seconds: number, run: () => Promise<void>): number {
  const [left, setLeft] = useState(0);
  const latest = useRef(run);
  useEffect(() => {
    latest.current = run;
  });
  useEffect(() => {
    if (seconds === 0) return undefined;
    const ends = Date.now() + 1000 * seconds;
    const count = () => {
      const now = Math.ceil((ends - Date.now()) / 1000);
      setLeft(Math.max(0, now));
      if (now > 0) return;
      window.clearInterval(timer);
      void latest.current();
    };
    const timer = window.setInterval(count, 200);
    return () => {
      window.clearInterval(timer);
      setLeft(0);
    };
  }, [seconds]);
  return left;
}
