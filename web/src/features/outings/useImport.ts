import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useRef, useState } from "react";

import { isPassing, Refusal, sendFile, type ImportedPicture } from "../../api/client";
import { smallCopy } from "./smallCopy";

export interface Incoming {
  id: number;
  name: string;
  /** 0 to 1 while sending, 1 while it is being read. */
  progress: number;
  state: "waiting" | "sending" | "done" | "refused" | "cancelled";
  notes: string[];
  taken?: ImportedPicture;
  /** The whole file, where a small copy of it was sent. */
  whole?: File;
  /** The file, where nothing answered. */
  unsent?: File;
}

/**
 * Takes files in one after another; a bad one is named and the rest go in. With `smallFirst` a
 * small copy is sent, which is enough to read the light by; the whole can follow.
 */
export function useImport(
  pathFor: (index: number) => string | Promise<string>,
  { smallFirst = false }: { smallFirst?: boolean } = {},
) {
  const client = useQueryClient();
  const [incoming, setIncoming] = useState<Incoming[]>([]);
  const aborts = useRef(new Map<number, AbortController>());

  const change = useCallback((id: number, part: Partial<Incoming>) => {
    setIncoming((all) => all.map((each) => (each.id === id ? { ...each, ...part } : each)));
  }, []);

  const takeOne = async (entry: Incoming, file: File, index: number): Promise<Incoming> => {
    const abort = aborts.current.get(entry.id) ?? new AbortController();
    if (abort.signal.aborted) return { ...entry, state: "cancelled" };
    change(entry.id, { state: "sending" });
    try {
      const small = smallFirst ? await smallCopy(file) : null;
      const path = `${await pathFor(index)}?name=${encodeURIComponent(file.name || "pasted picture")}`;
      const taken = await sendFile<ImportedPicture>(
        path,
        small ?? file,
        (progress) => change(entry.id, { progress }),
        abort.signal,
      );
      const done = { ...entry, state: "done" as const, progress: 1, notes: taken.notes, taken };
      return small ? { ...done, whole: file } : done;
    } catch (error) {
      if (error instanceof Refusal) {
        const refused = { ...entry, state: "refused" as const, notes: [error.message] };
        return isPassing(error) ? { ...refused, unsent: file } : refused;
      }
      return { ...entry, state: "cancelled" };
    }
  };

  const take = async (files: readonly File[]): Promise<Incoming[]> => {
    const entries = files.map<Incoming>((file, index) => ({
      id: Date.now() + index,
      name: file.name || "pasted picture",
      progress: 0,
      state: "waiting",
      notes: [],
    }));
    entries.forEach((entry) => aborts.current.set(entry.id, new AbortController()));
    setIncoming(entries);
    const finished: Incoming[] = [];
    for (const [index, entry] of entries.entries()) {
      const file = files[index];
      if (!file) continue;
      const result = await takeOne(entry, file, index);
      change(entry.id, result);
      finished.push(result);
    }
    await client.invalidateQueries({ queryKey: ["outings"] });
    const isSettled = (each: Incoming) =>
      each.state === "done" && each.notes.length === 0 && !each.whole;
    if (finished.every(isSettled)) setIncoming([]);
    return finished;
  };

  const cancel = (id: number) => {
    aborts.current.get(id)?.abort();
    change(id, { state: "cancelled" });
  };
  const dismiss = () => setIncoming([]);
  return { incoming, take, cancel, dismiss };
}
