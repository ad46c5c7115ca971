import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";

import { type Frame, framePath, frameQuery, type FrameWanted, releaseFrames } from "./frameQuery";

const FULL_AFTER_MS = 220;

/**
 * The predicted frame: coarse at once while things move, one at a time and the latest wish next,
 * and full once they rest. The last frame stays until the next is there.
 */
export function useDryRun(id: number, version: number, wanted: FrameWanted) {
  const client = useQueryClient();
  useEffect(() => releaseFrames(client), [client]);
  const key = `${version} ${framePath(id, wanted, {})}`;
  const [asked, setAsked] = useState({ key, version, wanted });
  const coarse = useQuery(frameQuery(id, asked.version, asked.wanted, "coarse"));
  if (!coarse.isFetching && asked.key !== key) setAsked({ key, version, wanted });
  const rests = useRests(key, FULL_AFTER_MS) && asked.key === key && coarse.isSuccess;
  const full = useQuery({ ...frameQuery(id, version, wanted, "full"), enabled: rests });
  const error = (full.error ?? coarse.error)?.message ?? null;
  const [last, setLast] = useState<{ frame: Frame; key: string } | null>(null);
  // A coarse frame counts once: never after the full one of the same steps.
  const coarseNow = last?.key === asked.key ? null : (coarse.data ?? null);
  const arrived = full.data ?? coarseNow;
  if (arrived && arrived !== last?.frame)
    setLast({ frame: arrived, key: full.data ? key : asked.key });
  return { frame: arrived ?? last?.frame ?? null, error };
}

/** Whether a value has not changed for a while. */
function useRests(value: string, afterMs: number): boolean {
  const [settled, setSettled] = useState<string | null>(null);
  useEffect(() => {
    const timer = window.setTimeout(() => setSettled(value), afterMs);
    return () => window.clearTimeout(timer);
  }, [value, afterMs]);
  return settled === value;
}
