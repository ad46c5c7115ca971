import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";

import { type AddedPicture, ask, type Measurement, Refusal, sendFile } from "../../api/client";
import { beginMeasurement, endMeasurement, leaveOut, sayGiven, takeOnBench } from "./queries";

interface Subject {
  phone: string;
  kind: string;
  lens: string;
  mode: string;
}

/** A measurement under way: begun or taken up again, given pictures and answers, then ended. */
export function useMeasurement({ phone, kind, lens, mode }: Subject) {
  const [now, setNow] = useState<Measurement | null>(null);
  const [reading, setReading] = useState<{ done: number; of: number; left: string } | null>(null);
  const [onBench, setOnBench] = useState(false);
  const [problems, setProblems] = useState<string[]>([]);
  const abort = useRef<AbortController>(undefined);
  const client = useQueryClient();
  const complain = (error: unknown) =>
    setProblems([error instanceof Error ? error.message : String(error)]);
  useEffect(() => {
    let wanted = true;
    beginMeasurement(phone, kind, lens, mode).then(
      (begun) => wanted && setNow(begun),
      (error: unknown) => wanted && complain(error),
    );
    return () => {
      wanted = false;
      abort.current?.abort();
    };
  }, [phone, kind, lens, mode]);

  const add = async (files: readonly File[]) => {
    if (!now) return;
    const stop = new AbortController();
    abort.current = stop;
    const found: string[] = [];
    const began = Date.now();
    for (const [at, file] of files.entries()) {
      if (stop.signal.aborted) break;
      const each = at === 0 ? 0 : (Date.now() - began) / at / 1000;
      const seconds = Math.ceil(each * (files.length - at));
      setReading({
        done: at,
        of: files.length,
        left: seconds > 1 ? `about ${seconds} s left` : "",
      });
      try {
        const path = `/measurements/${now.id}/pictures?name=${encodeURIComponent(file.name)}`;
        const added = await sendFile<AddedPicture>(path, file, () => undefined, stop.signal);
        if (!added.is_new) found.push(`${file.name} is already here.`);
      } catch (error) {
        if (!(error instanceof Refusal)) break;
        found.push(error.message);
      }
    }
    setReading(null);
    try {
      setNow(await ask<Measurement>(`/measurements/${now.id}`));
      setProblems(found);
    } catch (error) {
      complain(error);
    }
  };
  const after = (work: Promise<Measurement>) =>
    work.then((next) => {
      setProblems([]);
      setNow(next);
    }, complain);
  return {
    now,
    reading,
    problems,
    add,
    cancel: () => abort.current?.abort(),
    onBench,
    bench: () => {
      if (!now) return;
      setOnBench(true);
      void after(takeOnBench(now.id)).finally(() => setOnBench(false));
    },
    drop: (picture: number) => void (now && after(leaveOut(now.id, picture))),
    say: (given: Record<string, number>) => void (now && after(sayGiven(now.id, given))),
    end: async (how: "use" | "leave") => {
      if (!now) return null;
      try {
        const ended = await endMeasurement(now.id, how);
        await client.invalidateQueries({ queryKey: ["phones"] });
        return ended;
      } catch (error) {
        complain(error);
        return null;
      }
    },
  };
}
