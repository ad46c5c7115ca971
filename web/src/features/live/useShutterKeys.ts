import { useEffect, useRef } from "react";

import { isSingleKey } from "../../ui/keys";

/** Keys of a phone's side and of a remote shutter, where the browser passes them on. */
const SHUTTER = new Set(["AudioVolumeUp", "AudioVolumeDown", "VolumeUp", "VolumeDown", "Enter"]);

/** Shoot by a volume key or a remote; Enter belongs to what has the focus. */
export function useShutterKeys(shoot: () => void, isOn: boolean) {
  const latest = useRef(shoot);
  useEffect(() => {
    latest.current = shoot;
  });
  useEffect(() => {
    if (!isOn) return undefined;
    const onKey = (event: KeyboardEvent) => {
      if (!SHUTTER.has(event.key) || !isSingleKey(event)) return;
      const isOnControl = event.target instanceof Element && event.target.closest("button, a");
      if (event.key === "Enter" && isOnControl) return;
      event.preventDefault();
      latest.current();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [isOn]);
}
