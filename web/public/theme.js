// Before the first paint: a bright flash costs a quarter of an hour of night vision.
// The app asks for it again as time goes on, and after another theme was chosen.
window.oxlenTheme = () => {
  const read = (key) => {
    try {
      return localStorage.getItem(key);
    } catch {
      return null; // nothing is kept where storage is refused
    }
  };
  const usual = matchMedia("(prefers-contrast: more)").matches
    ? "sun"
    : matchMedia("(prefers-color-scheme: dark)").matches
      ? "night"
      : "day";
  const chosen = read("oxlen-theme") ?? usual;
  if (chosen !== "auto") return chosen;
  const now = Date.now() / 1000;
  const isDark = JSON.parse(read("oxlen-dark") ?? "[]").some(
    ([from, to]) => from <= now && now < to,
  );
  return isDark ? "night" : usual === "sun" ? "sun" : "day";
};
document.documentElement.dataset.theme = window.oxlenTheme();
