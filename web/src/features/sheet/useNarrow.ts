import { useSyncExternalStore } from "react";

const NARROW = "(max-width: 639px)";

function subscribe(change: () => void) {
  const query = window.matchMedia(NARROW);
  query.addEventListener("change", change);
  return () => query.removeEventListener("change", change);
}

/** Whether the screen is too narrow for a map. */
export function useNarrow(): boolean {
  return useSyncExternalStore(subscribe, () => window.matchMedia(NARROW).matches);
}
