import { useRef, useState } from "react";

import { ask, type ImportView, Refusal, sendFile } from "./client";
import { useSay } from "../ui/Notices";

const LOOK_EVERY_MS = 500;

/** How far an import is: sent, then read; shares from 0 to 1. */
export interface FileImport {
  what: "sending" | "importing";
  share: number;
}

/**
 * Send a file to be imported and follow it to its end; long ones can be cancelled. What was imported
 * until then is kept.
 */
export function useFileImport(path: string, onDone: (done: ImportView) => Promise<void> | void) {
  const say = useSay();
  const [now, setNow] = useState<FileImport | null>(null);
  const abort = useRef<AbortController | null>(null);
  const job = useRef<number | null>(null);
  const begin = async (file: File): Promise<void> => {
    abort.current = new AbortController();
    setNow({ what: "sending", share: 0 });
    try {
      const report = (share: number) => setNow({ what: "sending", share });
      let view = await sendFile<ImportView>(path, file, report, abort.current.signal);
      job.current = view.id;
      while (view.state === "working") {
        setNow({ what: "importing", share: view.all > 0 ? view.done / view.all : 0 });
        await new Promise((resolve) => window.setTimeout(resolve, LOOK_EVERY_MS));
        view = await ask<ImportView>(`/imports/${view.id}`);
      }
      if (view.state === "cancelled") say("Import cancelled. Everything imported so far stays.");
      await onDone(view);
    } catch (error) {
      if (!abort.current.signal.aborted)
        say(error instanceof Refusal ? error.message : "That file could not be imported.");
    }
    job.current = null;
    setNow(null);
  };
  const cancel = () => {
    abort.current?.abort();
    if (job.current !== null)
      ask(`/imports/${job.current}`, { method: "DELETE" }).catch(() => undefined);
  };
  return { now, begin, cancel };
}

/** An import's state in words, for its button or line. */
export function importWords({ what, share }: FileImport): string {
  const percent = `${Math.round(100 * share)} %`;
  return what === "sending" ? `Sending ${percent}` : `Importing ${percent}`;
}
