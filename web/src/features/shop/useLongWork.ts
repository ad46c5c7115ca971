import { useRef, useState } from "react";

import { ask, type ImportView } from "../../api/client";
import { useSay } from "../../ui/Notices";

const LOOK_EVERY_MS = 400;

/** Work that goes on after its answer: how far it is, and how to stop it. */
export function useLongWork(onDone: () => Promise<unknown>) {
  const say = useSay();
  const [share, setShare] = useState<number | null>(null);
  const job = useRef<number | null>(null);
  const begin = async (start: () => Promise<ImportView>): Promise<boolean> => {
    setShare(0);
    try {
      let view = await start();
      job.current = view.id;
      while (view.state === "working") {
        setShare(view.all > 0 ? view.done / view.all : 0);
        await new Promise((resolve) => window.setTimeout(resolve, LOOK_EVERY_MS));
        view = await ask<ImportView>(`/imports/${view.id}`);
      }
      if (view.state === "cancelled") say("Stopped. Everything measured so far stays.");
      await onDone();
      return view.state === "done";
    } catch (error) {
      say(error instanceof Error ? error.message : "That did not work. Try again.");
      return false;
    } finally {
      job.current = null;
      setShare(null);
    }
  };
  const stop = () => {
    if (job.current !== null)
      ask(`/imports/${job.current}`, { method: "DELETE" }).catch(() => undefined);
  };
  return { share, begin, stop };
}
