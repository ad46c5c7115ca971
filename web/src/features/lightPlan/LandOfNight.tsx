import type { NightPlan } from "../../api/client";
import { clockOf } from "./dayAxis";

interface Props {
  night: NightPlan;
  chosen: string;
  onChoose: (land: string) => void;
}

/** What becomes of the foreground: each way with its settings; the chosen one goes onto the sheet. */
export function LandOfNight({ night, chosen, onChoose }: Props) {
  if (night.land.length === 0) return null;
  return (
    <section aria-label="Foreground" className="mt-4 border-t border-line pt-3">
      <h3 className="font-semibold">Foreground</h3>
      <div
        role="radiogroup"
        aria-label="Foreground"
        className="mt-2 grid gap-2 sm:grid-cols-2 lg:grid-cols-4"
      >
        {night.land.map((way) => (
          <label
            key={way.id}
            className="grid cursor-pointer grid-cols-[auto_1fr] content-start gap-x-2.5 rounded border border-line p-2.5 has-checked:border-accent has-checked:bg-accent-soft has-disabled:cursor-default has-disabled:text-soft"
          >
            <input
              type="radio"
              name="land"
              className="mt-1 h-4.5 w-4.5 accent-(--accent)"
              checked={chosen === way.id}
              disabled={!way.reaches}
              onChange={() => onChoose(way.id)}
            />
            <span className="leading-snug">
              {way.name}
              <b className="block text-[1.05rem] tabular-nums">
                {way.label}
                {way.at !== null && ` at ${clockOf(way.at)}`}
              </b>
            </span>
            <ul className="col-span-2 mt-1.5 grid gap-1 text-[0.9rem]">
              {way.told.map((words) => (
                <li key={words}>{words}.</li>
              ))}
            </ul>
          </label>
        ))}
      </div>
    </section>
  );
}
