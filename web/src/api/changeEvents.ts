import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

import { PAGE } from "./client";

interface Item {
  topic: string;
  page: string;
}

const FIRST_WAIT_MS = 1000;
const LONGEST_WAIT_MS = 15_000;

type Listener = (topic: string) => void;
const listeners = new Set<Listener>();

/** Hear of what others change; the function it gives stops that. */
export function onNews(listener: Listener): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/**
 * Listen for what other pages and phones change, while this one is looked at: browsers allow few
 * open connections. A sheet under edit decides itself when to look again.
 */
export function useChangeEvents() {
  const client = useQueryClient();
  useEffect(() => {
    let source: EventSource | null = null;
    let missed = false;
    let wait = FIRST_WAIT_MS;
    let timer: number | undefined;
    const tell = (topic: string) => {
      for (const listener of listeners) listener(topic);
      void client.invalidateQueries({ predicate: ({ queryKey }) => isTouched(queryKey, topic) });
    };
    const begin = () => {
      if (source || document.visibilityState !== "visible") return;
      source = new EventSource("/api/changes");
      source.addEventListener("open", () => {
        if (missed) tell("all");
        missed = false;
        wait = FIRST_WAIT_MS;
      });
      source.addEventListener("error", () => {
        missed = true;
        // Tried again by ourselves, less and less often: browsers never tire.
        source?.close();
        source = null;
        timer = window.setTimeout(begin, wait);
        wait = Math.min(2 * wait, LONGEST_WAIT_MS);
      });
      source.addEventListener("changed", (event: MessageEvent<string>) => {
        const item = JSON.parse(event.data) as Item;
        if (item.page !== PAGE) tell(item.topic);
      });
    };
    const look = () => {
      if (document.visibilityState === "visible") return begin();
      source?.close();
      source = null;
      missed = true;
    };
    begin();
    document.addEventListener("visibilitychange", look);
    return () => {
      document.removeEventListener("visibilitychange", look);
      window.clearTimeout(timer);
      source?.close();
    };
  }, [client]);
}

/** Whether what is shown under a key may have changed with a topic such as `sheets/12`. */
function isTouched(key: readonly unknown[], topic: string): boolean {
  const [place] = topic.split("/");
  const [of] = key;
  if (of === "sheet" || of === "me") return false;
  if (place === "sheets") return of === "outings" || of === "takes" || of === "bin";
  return true;
}
