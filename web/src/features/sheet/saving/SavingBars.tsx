import { useState } from "react";

import type { SavingBar, SavingBars as Bars, SheetBody } from "../../../api/client";
import { Segmented } from "../../../ui/Segmented";
import type { Edit } from "../useSheetEditor";
import { FilesCompared } from "./FilesCompared";
import { fileSize } from "../../../ui/numbers";

interface Props {
  saving: Bars;
  sheetId: number;
  body: SheetBody;
  edit: Edit;
}
type Shown = "costs" | "holds";

/** Every file the lens can write, as long as it is heavy; one tap chooses it. */
export function SavingBars({ saving, sheetId, body, edit }: Props) {
  const [shown, setShown] = useState<Shown>("costs");
  const seen = body.picture !== null || body.scene !== null;
  const heaviest = Math.max(...saving.bars.map((bar) => bar.frame_mb));
  const modes = [...new Set(saving.bars.map((bar) => bar.mode))];
  const choose = (bar: SavingBar) =>
    edit(`save ${bar.name}`, (b) => ({
      ...b,
      format: bar.format,
      mode: bar.mode,
      saving: { ...b.saving, strategy: "as_asked" as const },
      steps_by_hand: null,
    }));
  return (
    <div className="flex h-full flex-col gap-3 overflow-y-auto p-2">
      <p className="leading-snug">
        <b>Recommended:</b> {saving.advice}.
      </p>
      {seen && (
        <div className="shrink-0">
          <Segmented
            small
            label="Comparison"
            value={shown}
            options={[
              { value: "costs", text: "Size and storage" },
              { value: "holds", text: "Tones kept" },
            ]}
            onChange={setShown}
          />
        </div>
      )}
      {seen && shown === "holds" && <FilesCompared {...{ sheetId, body }} />}
      {(!seen || shown === "costs") &&
        modes.map((mode) => {
          const bars = saving.bars.filter((bar) => bar.mode === mode);
          const first = bars[0];
          return (
            <section key={mode}>
              <h3 className="flex flex-wrap items-baseline gap-x-3">
                <b>{first?.mode_name}</b>
                {first && (
                  <span className="text-[0.86rem] text-soft">
                    prints {size(first.print_300_cm)} cm at 300 dpi, {size(first.print_200_cm)} at
                    200
                  </span>
                )}
              </h3>
              <ul className="grid gap-1.5">
                {bars.map((bar) => (
                  <li key={bar.format}>
                    <button
                      type="button"
                      aria-pressed={bar.chosen}
                      onClick={() => choose(bar)}
                      className={`grid w-full gap-1 rounded border px-2 py-1.5 text-left hover:bg-sunk ${bar.chosen ? "border-2 border-accent bg-accent-soft" : "border-line bg-raised"}`}
                    >
                      <span className="flex items-baseline gap-2">
                        <b>{bar.name}</b>
                        {bar.advised && (
                          <span className="rounded border border-ink px-1 text-[0.78rem]">
                            recommended
                          </span>
                        )}
                        <span className="ml-auto">{fileSize(bar.frame_mb)}</span>
                      </span>
                      <span className="block h-2.5 bg-sunk" aria-hidden="true">
                        <span
                          className="block h-full bg-ink"
                          style={{ width: `${(100 * bar.frame_mb) / heaviest}%` }}
                        />
                      </span>
                      <span className="text-[0.86rem] leading-tight">{facts(bar, saving)}</span>
                    </button>
                  </li>
                ))}
              </ul>
            </section>
          );
        })}
    </div>
  );
}

function facts(bar: SavingBar, saving: Bars): string {
  const found = [`${bar.fps} a second, ${bar.burst} in a burst`];
  if (saving.frames > 1) found.push(`${saving.frames} frames are ${fileSize(bar.all_mb)}`);
  if (bar.fits !== null) found.push(`${bar.fits} fit`);
  return found.join("; ");
}

function size([wide, high]: [number, number]): string {
  return `${Math.round(wide)} × ${Math.round(high)}`;
}
