import type { SharedFrame, Take } from "../../api/client";
import { NumberField, Select } from "../../ui/Field";
import { fixed } from "../../ui/numbers";

interface Props {
  shared: SharedFrame;
  weights: number[];
  takes: Take[];
  chosen: (number | null)[];
  onWeight: (at: number, weight: number) => void;
  onTake: (at: number, take: number | null) => void;
}

/** Each exposure with what to dial, its share, and the take that is its frame. */
export function ExposureList({ shared, weights, takes, chosen, onWeight, onTake }: Props) {
  const options = [
    { value: "", text: "not shot yet" },
    ...takes.map((take, at) => ({ value: String(take.id), text: `Take ${at + 1}: ${take.label}` })),
  ];
  return (
    <ol className="grid gap-2">
      {shared.exposures.map((exposure, at) => (
        <li key={at} className="rounded border border-line bg-panel p-3">
          <p className="tabular-nums">
            <span className="text-soft">{at + 1}</span> <b className="text-lg">{exposure.label}</b>{" "}
            <span className="text-soft">
              {exposure.stops}
              {Math.abs(exposure.residual_stops) >= 0.05 &&
                `, nearest step ${fixed(Math.abs(exposure.residual_stops), 1)} ${exposure.residual_stops > 0 ? "over" : "under"}`}
            </span>
          </p>
          <div className="mt-1 grid grid-cols-[6rem_1fr] gap-2">
            <NumberField
              label="Share of light"
              value={weights[at] ?? 1}
              low={0.01}
              high={100}
              onCommit={(value) => onWeight(at, value ?? 1)}
            />
            <Select
              label="Take used"
              value={String(chosen[at] ?? "")}
              options={options}
              onChange={(value) => onTake(at, value === "" ? null : Number(value))}
            />
          </div>
        </li>
      ))}
    </ol>
  );
}
