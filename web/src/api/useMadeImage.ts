import { useEffect, useState } from "react";

import { askForFile } from "./client";

const REST_MS = 250;

/** A picture the API makes of what is sent, anew a moment after each change; the last one stays. */
export function useMadeImage(path: string, body: unknown) {
  const [made, setMade] = useState<{ url: string; by: string } | null>(null);
  const [error, setError] = useState<string | null>(null);
  const wanted = JSON.stringify(body);
  useEffect(() => {
    const abort = new AbortController();
    const timer = window.setTimeout(() => {
      askForFile(path, JSON.parse(wanted), abort.signal).then(
        (blob) => {
          setError(null);
          setMade((before) => {
            if (before) URL.revokeObjectURL(before.url);
            return { url: URL.createObjectURL(blob), by: wanted };
          });
        },
        (reason: unknown) => {
          if (!abort.signal.aborted) setError(reason instanceof Error ? reason.message : "");
        },
      );
    }, REST_MS);
    return () => {
      window.clearTimeout(timer);
      abort.abort();
    };
  }, [path, wanted]);
  return { url: made?.url ?? null, error, isBusy: made?.by !== wanted };
}
