import type { ReactNode } from "react";

import { percent, signed } from "../../ui/numbers";
import { Preview } from "../../ui/Preview";
import { nameOf, type Shop, type Shot } from "./queries";
import { STEP_WORDS } from "./steps";

interface Props {
  shop: Shop;
  shots: readonly Shot[];
  chosen: Shot | null;
  onChoose: (take: number) => void;
}

type Reason = NonNullable<Shot["picture"]["checked"]>["reasons"] extends (infer R)[] | undefined
  ? R
  : never;

/** One row a picture, the worst first; what is off is bold. */
export function CheckTable({ shop, shots, chosen, onChoose }: Props) {
  return (
    <div className="overflow-x-auto">
      <table className="w-full min-w-[42rem] text-[0.92rem] tabular-nums">
        <thead className="text-left text-[0.85rem] text-soft">
          <tr>
            {["Picture", "Result", "Stops", "Mired", "Size", "Place", "Tilt", "Sharpness"].map(
              (name) => (
                <th key={name} className="px-2 py-1 font-normal">
                  {name}
                </th>
              ),
            )}
          </tr>
        </thead>
        <tbody>
          {shots.map((shot) => (
            <Row
              key={shot.picture.take_id}
              shop={shop}
              shot={shot}
              isChosen={shot === chosen}
              onChoose={onChoose}
            />
          ))}
        </tbody>
      </table>
    </div>
  );
}

interface RowProps {
  shop: Shop;
  shot: Shot;
  isChosen: boolean;
  onChoose: (take: number) => void;
}

function Row({ shop, shot, isChosen, onChoose }: RowProps) {
  const { picture } = shot;
  const found = picture.checked;
  const cell = (reason: Reason, text: ReactNode) => (
    <td className={`px-2 ${found?.reasons?.includes(reason) ? "font-bold text-accent" : ""}`}>
      {text}
    </td>
  );
  const shown = <T extends number>(value: T | null | undefined, words: (value: T) => string) =>
    value === null || value === undefined ? "–" : words(value);
  return (
    <tr
      className={`border-t border-line ${isChosen ? "bg-accent-soft" : "hover:bg-sunk"}`}
      onClick={() => onChoose(picture.take_id)}
    >
      <td className="py-1 pr-2">
        <button
          type="button"
          aria-pressed={isChosen}
          className="flex min-h-11 w-full items-center gap-2 text-left"
          onClick={() => onChoose(picture.take_id)}
        >
          <span className="surround block h-12 w-12 shrink-0 overflow-hidden rounded-xs">
            <Preview picture={picture.picture} alt="" className="h-full w-full object-cover" lazy />
          </span>
          <span className="leading-tight">{nameOf(shot, shop)}</span>
        </button>
      </td>
      <td className={`px-2 whitespace-nowrap ${picture.next_step === "keep" ? "" : "font-bold"}`}>
        {picture.is_reference
          ? "Reference"
          : picture.next_step
            ? STEP_WORDS[picture.next_step]
            : "Not checked"}
      </td>
      {cell(
        "exposure",
        shown(found?.exposure_stops, (value) => signed(value, 2)),
      )}
      {cell(
        "colour",
        shown(found?.mired, (value) => signed(value, 0)),
      )}
      {cell("scale", shown(picture.same_shape ? found?.scale : null, percent))}
      {cell("shift", shown(found?.shift, percent))}
      {cell(
        "tilt",
        shown(found?.tilt_deg, (value) => `${signed(value, 1)}°`),
      )}
      {cell(
        "sharpness",
        shown(found?.sharpness, (value) => percent(Math.min(1, value))),
      )}
    </tr>
  );
}
