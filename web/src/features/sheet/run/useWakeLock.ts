import { useEffect, useState } from "react";

/** Keeps the screen on while it is shown; false where the browser does not allow it. */
export function useWakeLock(): boolean {
  const [isHeld, setHeld] = useState(false);
  useEffect(() => {
    let lock: WakeLockSentinel | null = null;
    let isOver = false;
    const hold = () => {
      if (!("wakeLock" in navigator) || document.visibilityState !== "visible") return;
      navigator.wakeLock.request("screen").then(
        (found) => {
          if (isOver) void found.release();
          lock = found;
          setHeld(true);
        },
        () => setHeld(false),
      );
    };
    hold();
    document.addEventListener("visibilitychange", hold);
    return () => {
      isOver = true;
      document.removeEventListener("visibilitychange", hold);
      void lock?.release();
    };
  }, []);
  return isHeld;
}
