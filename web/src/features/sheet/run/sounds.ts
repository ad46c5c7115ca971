const KEY = "oxlen-mute";
let audio: AudioContext | null = null;

export const isMuted = () => localStorage.getItem(KEY) === "yes";
export const setMuted = (on: boolean) => localStorage.setItem(KEY, on ? "yes" : "no");

/** A short tone and a buzz of the phone; `last` is longer and higher. */
export function signal(last: boolean): void {
  if (isMuted()) return;
  if ("vibrate" in navigator) navigator.vibrate(last ? 400 : 60);
  audio ??= new AudioContext();
  const [now, length] = [audio.currentTime, last ? 0.5 : 0.08];
  const tone = audio.createOscillator();
  const volume = audio.createGain();
  tone.frequency.value = last ? 1320 : 880;
  volume.gain.setValueAtTime(0.25, now);
  volume.gain.exponentialRampToValueAtTime(0.001, now + length);
  tone.connect(volume).connect(audio.destination);
  tone.start(now);
  tone.stop(now + length);
}
