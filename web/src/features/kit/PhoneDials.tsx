import type { PhoneProfile } from "../../api/client";
import { precise } from "../../ui/numbers";

type Files = PhoneProfile["lenses"][number]["modes"][number]["files"];

/** What is dialled besides ISO and shutter, and what the phone computes by itself. */
export function ByHand({ profile }: { profile: PhoneProfile }) {
  const { white, computed } = profile;
  const tint = white?.tint_most ? `, tint ± ${white.tint_most}` : ", no tint";
  const dial = white
    ? `${white.low_k} to ${white.high_k} K in steps of ${white.step_k}${tint}`
    : "automatic";
  return (
    <dl className="mb-4 grid grid-cols-[minmax(0,auto)_minmax(0,1fr)] gap-x-3 text-[0.92rem] break-words">
      <dt className="text-soft">White balance</dt>
      <dd>{dial}</dd>
      {computed.map((mode) => (
        <div key={mode.id} className="contents">
          <dt className="text-soft">{mode.name}</dt>
          <dd>{computedWords(mode)}</dd>
        </div>
      ))}
    </dl>
  );
}

function computedWords(mode: PhoneProfile["computed"][number]): string {
  const found = [`on ${mode.lenses.join(", ")}`];
  if (mode.strengths_stops.length) found.push(`${mode.strengths_stops.join(", ")} stops`);
  if (mode.frames) found.push(`${mode.frames} frames`);
  if (mode.shortest_s) found.push(`from ${mode.shortest_s} s`);
  if (mode.longest_s) found.push(`up to ${mode.longest_s} s`);
  if (mode.looks_like_f) found.push(`as f/${mode.looks_like_f}`);
  if (mode.nearest_m && mode.farthest_m) found.push(`${mode.nearest_m} to ${mode.farthest_m} m`);
  found.push(`writes ${mode.writes === "raw" ? "RAW" : mode.writes}`);
  return found.join("; ");
}

/** A distance as people say it; null is infinity. */
export function centimetres(metres: number | null): string {
  if (metres === null) return "∞";
  return metres < 1 ? `${precise(100 * metres, 3)} cm` : `${metres} m`;
}

/** What the files of a mode weigh, and how fast they are written. */
export function fileWords(files: Files): string {
  const mb = (value: number) => `${precise(value, 2)} MB`;
  const raw = files.raw_mb ? `, RAW ${mb(files.raw_mb)} at ${files.raw_fps} a second` : ", no RAW";
  return `${mb(files.processed_mb)} at ${files.processed_fps} a second${raw}`;
}
