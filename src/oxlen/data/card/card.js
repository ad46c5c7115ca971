"use strict";
// Adds to a field card what cannot be without scripts: kept ticks, count-downs, stepping the light.
const store = (() => {
  try { localStorage.setItem("oxlen-card", "1"); return localStorage; } catch { return null; }
})();
for (const article of document.querySelectorAll("article")) {
  const boxes = [...article.querySelectorAll("input[data-step]")];
  const key = "oxlen-card-" + article.dataset.key;
  let done = [];
  try { done = JSON.parse(store?.getItem(key) ?? "[]"); } catch { /* nothing kept yet */ }
  for (const box of boxes) {
    box.checked = done.includes(box.dataset.step);
    box.addEventListener("change", () => {
      const now = boxes.filter((one) => one.checked).map((one) => one.dataset.step);
      store?.setItem(key, JSON.stringify(now));
    });
  }
  stepLight(article.querySelector(".chooser"), [...article.querySelectorAll("tr[data-shift]")]);
}
function stepLight(chooser, rows) {
  if (!chooser || rows.length === 0) return;
  chooser.classList.add("on");
  const [less, shown, more] = [document.createElement("button"), document.createElement("div"), document.createElement("button")];
  less.textContent = "−"; more.textContent = "+";
  less.setAttribute("aria-label", "Less light"); more.setAttribute("aria-label", "More light");
  shown.setAttribute("role", "status");
  chooser.append(less, shown, more);
  let at = Math.max(0, rows.findIndex((row) => row.className === "now"));
  const show = () => {
    const [light, dial, costs] = rows[at].cells;
    const value = document.createElement("b");
    value.textContent = dial.textContent;
    shown.replaceChildren(light.firstChild.textContent, value, costs.textContent);
    less.disabled = at === 0; more.disabled = at === rows.length - 1;
  };
  less.onclick = () => { at -= 1; show(); };
  more.onclick = () => { at += 1; show(); };
  show();
}
let audio = null;
let lock = null;
function tone(last) {
  navigator.vibrate?.(last ? 400 : 60);
  try {
    audio ??= new AudioContext();
    const [now, length] = [audio.currentTime, last ? 0.5 : 0.08];
    const wave = audio.createOscillator(), volume = audio.createGain();
    wave.frequency.value = last ? 1320 : 880;
    volume.gain.setValueAtTime(0.25, now);
    volume.gain.exponentialRampToValueAtTime(0.001, now + length);
    wave.connect(volume).connect(audio.destination);
    wave.start(now); wave.stop(now + length);
  } catch { /* no sound here: the numbers are on the screen */ }
}
for (const clock of document.querySelectorAll(".clock")) {
  const parts = ["wait", "open", "every", "frames", "remind"];
  const [wait, open, gap, frames, remind] = parts.map((name) => Number(clock.dataset[name]));
  const every = gap || open;
  const end = wait + every * (frames - 1) + (frames > 1 ? every : open);
  const shown = document.createElement("p"), button = document.createElement("button");
  shown.setAttribute("role", "timer"); shown.hidden = true;
  const name = wait > 0 ? `Start ${wait} s` : "Start timer";
  button.textContent = name;
  clock.append(shown, button);
  let timer = 0;
  const stop = () => {
    clearInterval(timer); timer = 0; shown.hidden = true; button.textContent = name;
    lock?.release(); lock = null;
  };
  button.onclick = () => {
    if (timer) return stop();
    const begun = performance.now();
    let told = "";
    button.textContent = "Stop"; shown.hidden = false;
    navigator.wakeLock?.request("screen").then((held) => { lock = held; }, () => undefined);
    timer = setInterval(() => {
      const seconds = (performance.now() - begun) / 1000;
      const looks = remind > 0 ? Math.floor((seconds - wait) / remind) : 0;
      const mark = seconds >= end ? "end" : looks > 0 ? `look ${looks}` : seconds >= wait ? "open" : wait - seconds <= 3 ? "in " + Math.ceil(wait - seconds) : "";
      if (mark && mark !== told) tone(mark === "end" || mark === "open");
      told = mark;
      if (seconds >= end) return stop();
      shown.innerHTML = "";
      const [number, words] = moment(seconds);
      const small = document.createElement("small");
      small.textContent = words;
      shown.append(number.toFixed(1), small);
    }, 100);
  };
  function moment(seconds) {
    if (seconds < wait) return [wait - seconds, "s until the shot"];
    const since = seconds - wait;
    const frame = every > 0 ? Math.min(frames - 1, Math.floor(since / every)) : 0;
    const within = since - frame * every;
    const which = frames > 1 ? `, frame ${frame + 1} of ${frames}` : "";
    return within < open ? [within, `s open${which}`] : [every - within, `s pause${which}`];
  }
}
