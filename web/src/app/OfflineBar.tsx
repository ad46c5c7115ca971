import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link } from "wouter";

import { meQuery } from "../features/network/queries";
import { useWaitingPictures } from "../api/waitingPictures";
import { Button } from "../ui/Button";
import {
  isAnswering,
  keepHere,
  noteSource,
  onNewer,
  useKeeping,
  useKeptSince,
} from "../offline/offline";
import { clockTime } from "../ui/numbers";

const LOOK_EVERY_MS = 5000;

/**
 * While this phone's own copy is shown, look whether the computer answers; once it does, whoever
 * notices it, ask for everything anew: an answer that was only late would stay as old as the copy.
 */
function useComputerBack(isAway: boolean): void {
  const client = useQueryClient();
  const wasAway = useRef(false);
  useEffect(() => {
    if (!isAway) {
      if (wasAway.current) void client.invalidateQueries();
      wasAway.current = false;
      return undefined;
    }
    wasAway.current = true;
    let isOver = false;
    let timer = 0;
    const look = async () => {
      if (await isAnswering()) {
        noteSource(null);
        await client.invalidateQueries();
      }
      if (!isOver) again(); // a copy may have been shown again meanwhile
    };
    const again = () => {
      timer = window.setTimeout(() => void look(), LOOK_EVERY_MS);
    };
    again();
    return () => {
      isOver = true;
      window.clearTimeout(timer);
    };
  }, [client, isAway]);
}

/** On a phone: keeps Oxlen there, and says when what is shown is the phone's own copy. */
export function OfflineBar() {
  const isPhone = useQuery(meQuery).data?.is_phone ?? false;
  const client = useQueryClient();
  const since = useKeptSince();
  useComputerBack(since !== null);
  useEffect(() => {
    if (!isPhone) return;
    keepHere().then(
      (isNew) => {
        if (isNew) void client.invalidateQueries();
      },
      () => undefined, // without it everything else still works
    );
  }, [client, isPhone]);
  const [isOlder, setOlder] = useState(false);
  useEffect(() => onNewer(() => setOlder(true)), []);
  const pictures = useWaitingPictures().length;
  if (since === null && isOlder)
    return (
      <p
        role="status"
        className="flex items-center justify-between gap-3 border-b border-strong bg-raised px-3 py-2"
      >
        Oxlen was updated on the computer.
        <Button onClick={() => window.location.reload()}>Load new version</Button>
      </p>
    );
  if (since === null) return isPhone ? <OfflineIsOff /> : null;
  return (
    <p role="status" className="border-b border-strong bg-raised px-3 py-2 text-center">
      No connection to the computer. Showing the copy {when(since)}. Changes are waiting on this
      phone
      {pictures > 0 && `, ${pictures} ${pictures === 1 ? "picture" : "pictures"} too`}.{" "}
      <Link href="/phone" className="underline">
        Saved on this phone
      </Link>
    </p>
  );
}

const SEEN = "oxlen-offline-off";

/** Shown once a session: what a phone that keeps nothing will miss, and where it is mended. */
function OfflineIsOff() {
  const keeping = useKeeping();
  const [isSeen, setSeen] = useState(() => sessionStorage.getItem(SEEN) !== null);
  if (isSeen || keeping === "on" || keeping === "unknown") return null;
  return (
    <p
      role="status"
      className="flex items-center justify-between gap-3 border-b border-strong bg-raised px-3 py-2"
    >
      <span>
        <b>Offline is off.</b> Without a connection nothing can be opened.{" "}
        <Link href="/phone" className="underline">
          Turn it on
        </Link>
      </span>
      <Button
        look="quiet"
        onClick={() => {
          sessionStorage.setItem(SEEN, "1");
          setSeen(true);
        }}
      >
        Later
      </Button>
    </p>
  );
}

function when(stamp: string): string {
  const at = new Date(stamp);
  if (Number.isNaN(at.getTime())) return "earlier";
  return `at ${clockTime(at)}`;
}
