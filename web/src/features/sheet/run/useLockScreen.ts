import { useEffect, useState } from "react";

import type { SlipLine } from "../../../api/client";
import { useSay } from "../../../ui/Notices";

const TAG = "oxlen-slip";
const DENIED = "Notifications are off for Oxlen. Allow them in the browser's settings.";

/**
 * Shows the slip as a notification, which phones keep on the lock screen and beside the camera
 * app. `show` is undefined where the browser has none; the notification goes with the checklist.
 */
export function useLockScreen(title: string, lines: readonly SlipLine[]) {
  const say = useSay();
  const [worker, setWorker] = useState<ServiceWorkerRegistration | null>(null);
  useEffect(() => {
    if (!("Notification" in window) || !("serviceWorker" in navigator)) return;
    void navigator.serviceWorker.getRegistration().then((found) => setWorker(found ?? null));
  }, []);
  useEffect(() => () => void (worker && close(worker)), [worker]);
  if (worker === null) return undefined;
  return async () => {
    if ((await Notification.requestPermission()) !== "granted") return say(DENIED);
    await close(worker);
    const first = lines.filter((line) => line.on_map).map((line) => line.value);
    const rest = lines.filter((line) => !line.on_map).map((line) => `${line.name} ${line.value}`);
    await worker.showNotification(first.join(", "), {
      body: [title, ...rest].join("\n"),
      tag: TAG,
      silent: true,
      requireInteraction: true,
    });
    say("The slip is in your notifications until you leave the checklist.");
  };
}

async function close(worker: ServiceWorkerRegistration): Promise<void> {
  for (const shown of await worker.getNotifications({ tag: TAG })) shown.close();
}
