import { useEffect, useState } from "react";

import { askForFile, type Recipe } from "../../../api/client";

const REST_MS = 250;

/** A small picture of a take by a recipe, made anew a moment after each change; the last stays. */
export function useDeveloped(takeId: number, recipe: Recipe) {
  const [made, setMade] = useState<{ url: string; by: string } | null>(null);
  const [error, setError] = useState<string | null>(null);
  const wanted = JSON.stringify(recipe);
  useEffect(() => {
    const abort = new AbortController();
    const timer = window.setTimeout(() => {
      askForFile(`/takes/${takeId}/developed`, JSON.parse(wanted), abort.signal).then(
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
  }, [takeId, wanted]);
  return { url: made?.url ?? null, error, isBusy: made?.by !== wanted };
}
