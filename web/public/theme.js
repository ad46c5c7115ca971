// Before the first paint: a bright flash costs a quarter of an hour of night vision.
(() => {
  let kept = null;
  try {
    kept = localStorage.getItem("oxlen-theme");
  } catch {
    // Nothing is kept where storage is refused.
  }
  const wanted = matchMedia("(prefers-contrast: more)").matches ? "sun" : "day";
  document.documentElement.dataset.theme = kept ?? wanted;
})();
