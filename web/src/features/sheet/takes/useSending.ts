import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

import { useKeptSince } from "../../../offline/offline";
import { sendLeftEdits } from "../leftEdits";
import { onArrived, sendPictures, useWaitingPictures } from "./waitingPictures";

const LOOK_EVERY_MS = 5000;

/** Sends edits and pictures that wait on this device as soon as the computer answers. */
export function useSending(): void {
  const client = useQueryClient();
  const isWaiting = useWaitingPictures().some((one) => one.refused === null);
  const isAway = useKeptSince() !== null;
  useEffect(
    () =>
      onArrived((sheet) => {
        void client.invalidateQueries({ queryKey: ["takes", sheet] });
        void client.invalidateQueries({ queryKey: ["sheet", sheet] });
      }),
    [client],
  );
  // What was left by an earlier page goes first, edits before pictures: then as long as any waits.
  useEffect(() => {
    const told = (sheet: number) => {
      void client.invalidateQueries({ queryKey: ["sheet", sheet] });
      void client.invalidateQueries({ queryKey: ["outings"] });
    };
    void sendLeftEdits(told)
      .catch(() => undefined) // no store here: nothing waits
      .then(sendPictures);
  }, [client, isAway]);
  useEffect(() => {
    if (!isWaiting) return undefined;
    const again = () => void sendPictures();
    const timer = window.setInterval(again, LOOK_EVERY_MS);
    window.addEventListener("online", again);
    return () => {
      window.clearInterval(timer);
      window.removeEventListener("online", again);
    };
  }, [isWaiting]);
}
