import { useEffect, useState } from "react";

export const THEMES = ["day", "sun", "night"] as const;
export type Theme = (typeof THEMES)[number];
const KEY = "oxlen-theme";

function remembered(): Theme {
  const kept = localStorage.getItem(KEY);
  return THEMES.find((theme) => theme === kept) ?? "day";
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
