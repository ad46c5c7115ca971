import { fixed } from "../../ui/numbers";
import type { LiveView } from "./queries";

/** The slip by the light seen now, ISO and shutter large; what is missing where there is none. */
export function LiveSlip({ view }: { view: LiveView | null }) {
  if (!view) return <p className="text-soft">Reading…</p>;
  return (
    <section aria-label="Live slip" className="rounded border border-line bg-raised p-3">
      <p className="flex flex-wrap items-baseline justify-between gap-x-3">
        <span className="text-lg font-semibold tabular-nums">
          {view.ev100 === null ? "Relative light" : view.ev_words}
          {view.plus_minus_stops !== null && ` ± ${fixed(view.plus_minus_stops, 1)}`}
        </span>
        <span className="text-[0.9rem] text-soft">{view.why}</span>
      </p>
      {view.trouble && <p className="mt-1 font-semibold">{view.trouble}</p>}
      {view.nearest && (
        <p
          aria-label="Nearest settings"
          className="text-[2rem] leading-tight font-bold tabular-nums"
        >
          ISO {view.nearest.iso}, <span className="whitespace-nowrap">{view.nearest.shutter}</span>
        </p>
      )}
      {view.lines.length > 0 && (
        <dl className="mt-2 grid grid-cols-2 gap-x-4 gap-y-1">
          {[...view.lines]
            .sort((a, b) => Number(b.on_map) - Number(a.on_map))
            .map((line) => (
              <div
                key={line.field}
                className={line.on_map ? "col-span-1" : "flex flex-wrap gap-x-2 text-[0.95rem]"}
              >
                <dt className="text-soft">{line.name}</dt>
                <dd
                  data-fact={line.field}
                  className={
                    line.on_map
                      ? "text-[2rem] leading-none font-bold whitespace-nowrap tabular-nums"
                      : "font-semibold"
                  }
                >
                  {line.value}
                </dd>
              </div>
            ))}
        </dl>
      )}
      {view.cautions.map((caution) => (
        <p key={caution.words} className="mt-2 border-l-4 border-ink pl-2">
          {caution.words}
        </p>
      ))}
    </section>
  );
}
