import { useRef, useState } from "react";

import {
  type LadderFound,
  type LadderLook,
  type PatchDetail,
  Refusal,
  sendFile,
} from "../../api/client";
import { ladderPeak } from "./queries";
import { rounded } from "../../ui/numbers";

export interface Rung {
  file: File;
  look: LadderLook | null;
  value: number | null;
  /** Why it cannot be used. */
  refused: string;
}
export interface Patch {
  x: number;
  y: number;
  r: number;
}

/** Pictures of a ladder: looked at, measured one after another, and the peak found. */
export function useLadder() {
  const [rungs, setRungs] = useState<Rung[]>([]);
  const [patch, setPatch] = useState<Patch>({ x: 0.5, y: 0.5, r: 0.06 });
  const [doing, setDoing] = useState<{ what: string; done: number; of: number } | null>(null);
  const [found, setFound] = useState<LadderFound | null>(null);
  const [problem, setProblem] = useState("");
  const abort = useRef<AbortController>(undefined);

  /** One request for each file in turn; stops where it is cancelled. */
  const each = async (
    what: string,
    files: readonly File[],
    work: (file: File, at: number, signal: AbortSignal) => Promise<void>,
  ): Promise<boolean> => {
    const stop = new AbortController();
    abort.current = stop;
    setProblem("");
    for (const [at, file] of files.entries()) {
      if (stop.signal.aborted) break;
      setDoing({ what, done: at, of: files.length });
      await work(file, at, stop.signal);
    }
    setDoing(null);
    return !stop.signal.aborted;
  };

  const add = async (files: readonly File[]) => {
    const known = rungs.filter((rung) => !rung.refused);
    const sorted = [...files].sort((a, b) => a.name.localeCompare(b.name, "en", { numeric: true }));
    const next: Rung[] = [...known];
    setFound(null);
    await each("Measuring", sorted, async (file, _, signal) => {
      const entry: Rung = { file, look: null, value: null, refused: "" };
      try {
        const path = `/ladder/look?name=${encodeURIComponent(file.name)}`;
        entry.look = await sendFile<LadderLook>(path, file, () => undefined, signal);
        entry.value = entry.look.slider;
      } catch (error) {
        if (!(error instanceof Refusal)) return;
        entry.refused = error.message;
      }
      next.push(entry);
      setRungs([...next]);
    });
  };

  const measure = async () => {
    const usable = rungs.filter((rung) => !rung.refused && rung.value !== null);
    const details: PatchDetail[] = [];
    setFound(null);
    try {
      const whole = await each(
        "Measuring",
        usable.map((rung) => rung.file),
        async (file, _, signal) => {
          const asked = new URLSearchParams({
            name: file.name,
            x: String(patch.x),
            y: String(patch.y),
            r: String(patch.r),
          });
          const path = `/ladder/patch?${asked.toString()}`;
          details.push(await sendFile<PatchDetail>(path, file, () => undefined, signal));
        },
      );
      if (!whole) return;
      const measured = usable.map((rung, at) => ({
        value: rung.value ?? 0,
        scales: details[at]?.scales ?? [],
      }));
      setFound(await ladderPeak(measured));
    } catch (error) {
      setDoing(null);
      if (error instanceof Refusal) setProblem(error.message);
    }
  };

  /** Slider values in even steps, in the order of the pictures. */
  const spread = (from: number, step: number) => {
    setFound(null);
    let at = 0;
    setRungs((all) =>
      all.map((rung) => (rung.refused ? rung : { ...rung, value: rounded(from + step * at++, 6) })),
    );
  };
  const setValue = (at: number, value: number | null) => {
    setFound(null);
    setRungs((all) => all.map((rung, index) => (index === at ? { ...rung, value } : rung)));
  };
  const place = (next: Patch) => {
    setFound(null);
    setPatch(next);
  };
  const drop = (at: number) => {
    setFound(null);
    setRungs((all) => all.filter((_, index) => index !== at));
  };
  const cancel = () => abort.current?.abort();
  return {
    ...{ rungs, patch, doing, found, problem },
    ...{ add, measure, spread, setValue, place, drop, cancel },
  };
}
