import { useEffect, useState } from "react";

export const THEMES = ["day", "sun", "night"] as const;
export type Theme = (typeof THEMES)[number];
const KEY = "oxlen-theme";

/** What `theme.js` has set before the first paint. */
function remembered(): Theme {
  return THEMES.find((theme) => theme === document.documentElement.dataset["theme"]) ?? "day";
}

/** The theme of this device, remembered on it. */
export function useTheme(): [Theme, (theme: Theme) => void] {
  const [theme, setTheme] = useState<Theme>(remembered);
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
    localStorage.setItem(KEY, theme);
  }, [theme]);
  return [theme, setTheme];
}
