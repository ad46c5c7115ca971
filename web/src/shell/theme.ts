import { useEffect, useState } from "react";

import { ask, type Darkness } from "../api/client";

export const THEMES = ["auto", "day", "sun", "night"] as const;
export type Theme = (typeof THEMES)[number];
const KEY = "oxlen-theme";
const DARK_KEY = "oxlen-dark";
const LOOK_EVERY_MS = 60_000;
/** Whether a missing place was mentioned: once is enough. */
let isSaid = false;

declare global {
  interface Window {
    /** The theme to show now: `theme.js` has it before the first paint. */
    oxlenTheme: () => string;
  }
}

function chosen(): Theme {
  const kept = localStorage.getItem(KEY) ?? document.documentElement.dataset["theme"];
  return THEMES.find((theme) => theme === kept) ?? "day";
}

function show(): void {
  document.documentElement.dataset["theme"] = window.oxlenTheme();
}

/**
 * The theme of this device, remembered on it once it is chosen. `onNoPlace` is called where it is to
 * follow the dusk and no outing has a place.
 */
export function useTheme(onNoPlace: () => void): [Theme, (theme: Theme) => void] {
  const [theme, setTheme] = useState<Theme>(chosen);
  useEffect(() => (theme === "auto" ? follow(onNoPlace) : undefined), [theme, onNoPlace]);
  const choose = (next: Theme) => {
    localStorage.setItem(KEY, next);
    show();
    setTheme(next);
  };
  return [theme, choose];
}

/** Follows the darkness of the place until the function it gives is called. */
function follow(onNoPlace: () => void): () => void {
  // Kept for a week: away from the computer it still turns dark at dusk.
  ask<Darkness>("/darkness").then(
    ({ place, spans }) => {
      if (place === null && !isSaid) onNoPlace();
      isSaid = true;
      localStorage.setItem(DARK_KEY, JSON.stringify(spans));
      show();
    },
    () => undefined,
  );
  const timer = window.setInterval(show, LOOK_EVERY_MS);
  return () => window.clearInterval(timer);
}
