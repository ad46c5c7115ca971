import { useRef, useState } from "react";

import { isPassing, Refusal, sendFile } from "../../api/client";
import { newMark } from "../../api/marks";

export interface TakingIn {
  all: number;
  done: number;
  /** Seconds until the last, by those that are in; null until that is known. */
  leftS: number | null;
  bad: { name: string; why: string }[];
  isOver: boolean;
}

interface Options<T> {
  /** Where a file goes, without its name and mark. */
  path: string;
  /** More to say to the server. */
  asked?: Record<string, string>;
  onOne?: (answer: T) => void;
  /** A file that found no answer; the words to say, or null when it was kept. */
  onAway?: (file: File) => Promise<string | null>;
}

/**
 * Takes files in one after another: a bad one is named and the rest go in. Each has a mark and is
 * known by its content, so that sent once more after a crash nothing is there twice.
 */
export function useTakingIn<T>({ path, asked = {}, onOne, onAway }: Options<T>) {
  const [state, setState] = useState<TakingIn | null>(null);
  const stop = useRef<AbortController | null>(null);
  const takeOne = async (file: File, signal: AbortSignal): Promise<string | null> => {
    const name = file.name || "picture";
    const said = new URLSearchParams({ ...asked, name, mark: newMark() });
    try {
      const answer = await sendFile<T>(`${path}?${said}`, file, () => undefined, signal);
      onOne?.(answer);
      return null;
    } catch (error) {
      if (signal.aborted) return null;
      if (!(error instanceof Refusal)) throw error;
      if (isPassing(error) && onAway) return onAway(file);
      return error.message;
    }
  };
  const take = async (files: readonly File[]): Promise<void> => {
    const abort = new AbortController();
    stop.current = abort;
    const begun = performance.now();
    let now: TakingIn = { all: files.length, done: 0, leftS: null, bad: [], isOver: false };
    setState(now);
    for (const file of files) {
      if (abort.signal.aborted) break;
      const why = await takeOne(file, abort.signal);
      const done = now.done + 1;
      const eachS = (performance.now() - begun) / 1000 / done;
      now = {
        ...now,
        done,
        leftS: done < 2 ? null : eachS * (files.length - done),
        bad: why === null ? now.bad : [...now.bad, { name: file.name, why }],
      };
      setState(now);
    }
    setState(now.bad.length === 0 ? null : { ...now, isOver: true });
  };
  return {
    state,
    take,
    cancel: () => stop.current?.abort(),
    dismiss: () => setState(null),
  };
}
