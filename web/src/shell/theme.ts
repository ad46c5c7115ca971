import { useState } from "react";

export const THEMES = ["day", "sun", "night"] as const;
export type Theme = (typeof THEMES)[number];
const KEY = "oxlen-theme";

/** What `theme.js` has set before the first paint. */
function shown(): Theme {
  return THEMES.find((theme) => theme === document.documentElement.dataset["theme"]) ?? "day";
}

/** The theme of this device, remembered on it once it is chosen. */
export function useTheme(): [Theme, (theme: Theme) => void] {
  const [theme, setTheme] = useState<Theme>(shown);
  const choose = (next: Theme) => {
    document.documentElement.dataset["theme"] = next;
    localStorage.setItem(KEY, next);
    setTheme(next);
  };
  return [theme, choose];
}
