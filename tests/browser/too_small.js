// Controls under 44 px, by what they say. Words within a sentence are exempt (WCAG 2.5.8).
() => {
  const LEAST_PX = 43.5;
  const controls = "button, a[href], input:not([type=hidden]), select, summary, textarea, [role=slider]";
  const found = [];
  for (const control of document.querySelectorAll(controls)) {
    const style = getComputedStyle(control);
    const own = control.getBoundingClientRect();
    if (!own.width || style.visibility === "hidden" || control.closest(".sr-only, .term")) continue;
    if (style.display === "inline" && control.closest("p, li, dd, td, figcaption")) continue;
    // A box to tick is as large as its label, a thumb as the track it is moved on.
    const label = control.labels?.[0] ?? control.parentElement.closest("[data-orientation]");
    const boxes = [own, label?.getBoundingClientRect(), control.parentElement.getBoundingClientRect()];
    const isPart = control.matches("[type=checkbox], [type=radio], [role=slider]");
    const height = isPart ? Math.max(...boxes.map((box) => box?.height ?? 0)) : own.height;
    const width = isPart ? Math.max(...boxes.map((box) => box?.width ?? 0)) : own.width;
    if (Math.min(height, width) < LEAST_PX)
      found.push(
        `${control.getAttribute("aria-label") || control.innerText || control.type}: ` +
          `${Math.round(width)} x ${Math.round(height)}`,
      );
  }
  return found;
}
