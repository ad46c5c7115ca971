import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

import { useKeptSince } from "../../../app/offline";
import { onArrived, sendPictures, useWaitingPictures } from "./waitingPictures";

const LOOK_EVERY_MS = 5000;

/** Sends the pictures that wait on this device as soon as the computer answers. */
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
  // What was left by an earlier page, whatever became of it, goes first.
  useEffect(() => void sendPictures(), [isAway]);
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
