import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

import { onArrived, sendPictures, useWaitingPictures } from "../../../api/waitingPictures";
import { sendBegun } from "../../../api/waitingSheets";
import type { PictureUse, WaitingPicture } from "../../../api/waitingStore";
import { useKeptSince } from "../../../offline/offline";
import { useSay } from "../../../ui/Notices";
import { sendLeftEdits } from "../leftEdits";

const LOOK_EVERY_MS = 5000;

/** Sends edits and pictures that wait on this device as soon as the computer answers. */
export function useSending(): void {
  const client = useQueryClient();
  const isWaiting = useWaitingPictures().some((picture) => picture.refused === null);
  const isAway = useKeptSince() !== null;
  const say = useSay();
  useEffect(
    () =>
      onArrived(({ use, owner }) => {
        if (use === "take") void client.invalidateQueries({ queryKey: ["takes", owner] });
        if (use === "sheet") void client.invalidateQueries({ queryKey: ["outings"] });
        else void client.invalidateQueries({ queryKey: ["sheet", owner] });
      }),
    [client],
  );
  // What was left by an earlier page goes first, edits before pictures: then as long as any waits.
  useEffect(() => {
    let edits = 0;
    const noteSent = (sheet: number) => {
      edits += 1;
      void client.invalidateQueries({ queryKey: ["sheet", sheet] });
      void client.invalidateQueries({ queryKey: ["outings"] });
    };
    void sendLeftEdits(noteSent)
      .then(sendBegun)
      .catch(() => 0) // no store here: nothing waits
      .then(async (begun) => {
        if (begun > 0) void client.invalidateQueries({ queryKey: ["outings"] });
        saySent(say, await sendPictures(), { edits, begun });
      });
  }, [client, isAway, say]);
  useEffect(() => {
    if (!isWaiting) return undefined;
    const again = () => void sendPictures().then((pictures) => saySent(say, pictures));
    const timer = window.setInterval(again, LOOK_EVERY_MS);
    window.addEventListener("online", again);
    return () => {
      window.clearInterval(timer);
      window.removeEventListener("online", again);
    };
  }, [isWaiting, say]);
}

const USES: readonly [PictureUse, string][] = [
  ["reading", "reading"],
  ["take", "take"],
  ["sheet", "new sheet"],
];

/** What has reached the computer after it waited here. */
function saySent(
  say: (words: string) => void,
  pictures: readonly WaitingPicture[],
  { edits, begun } = { edits: 0, begun: 0 },
): void {
  const counted = (count: number, noun: string) =>
    count > 0 ? [`${count} ${noun}${count === 1 ? "" : "s"}`] : [];
  const used = USES.flatMap(([use, noun]) =>
    counted(
      pictures.filter((picture) => picture.use === use).length + (use === "sheet" ? begun : 0),
      noun,
    ),
  );
  const sent = [...counted(edits, "edit"), ...used];
  if (sent.length > 0) say(`${sent.join(", ")} sent to the computer.`);
}
