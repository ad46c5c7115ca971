const KEY = "oxlen-mute";
let audio: AudioContext | null = null;

export const isMuted = () => localStorage.getItem(KEY) === "yes";
export const setMuted = (on: boolean) => localStorage.setItem(KEY, on ? "yes" : "no");

const SPOKEN = "oxlen-count-aloud";
export const canSpeak = "speechSynthesis" in window;
/** Whether the clock counts aloud: off until it is asked for. */
export const isSpoken = () => canSpeak && localStorage.getItem(SPOKEN) === "yes";
export const rememberSpoken = (on: boolean) => localStorage.setItem(SPOKEN, on ? "yes" : "no");

/** Say a word, unless sound is off or counting aloud is. */
export function speak(words: string): void {
  if (isMuted() || !isSpoken()) return;
  window.speechSynthesis.cancel(); // a late number is a wrong one
  window.speechSynthesis.speak(new SpeechSynthesisUtterance(words));
}

/** A quiet tick for each second that the shutter is open. */
export function tick(): void {
  tone({ hertz: 660, seconds: 0.04, volume: 0.08 });
}

/** A short tone and a buzz of the phone; `last` is longer and higher. */
export function signal(last: boolean): void {
  if (isMuted()) return;
  if ("vibrate" in navigator) navigator.vibrate(last ? 400 : 60);
  tone({ hertz: last ? 1320 : 880, seconds: last ? 0.5 : 0.08, volume: 0.25 });
}

function tone(of: { hertz: number; seconds: number; volume: number }): void {
  if (isMuted()) return;
  audio ??= new AudioContext();
  const now = audio.currentTime;
  const sound = audio.createOscillator();
  const volume = audio.createGain();
  sound.frequency.value = of.hertz;
  volume.gain.setValueAtTime(of.volume, now);
  volume.gain.exponentialRampToValueAtTime(0.001, now + of.seconds);
  sound.connect(volume).connect(audio.destination);
  sound.start(now);
  sound.stop(now + of.seconds);
}
