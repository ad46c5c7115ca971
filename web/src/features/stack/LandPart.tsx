import type { Stack, StackAsked } from "../../api/client";
import { Button } from "../../ui/Button";
import { NumberField } from "../../ui/Field";
import { nameOfTake } from "./queries";

interface Props {
  set: Stack;
  asked: StackAsked;
  onChange: (part: Partial<StackAsked>) => void;
  onAddTakes: (takes: number[]) => void;
}

/** Frames of the foreground by itself, blended under the sky: which of the set's they are. */
export function LandPart({ set, asked, onChange, onAddTakes }: Props) {
  const land = asked.land;
  const missing = set.land_takes.filter((take) => !set.names.includes(nameOfTake(take)));
  return (
    <section aria-label="Foreground frames" className="rounded border border-line p-2.5">
      <p>
        <b>Foreground from its own frames</b>
        <span className="block text-[0.93rem] text-soft">
          {land.length === 0
            ? "Shot at dusk or as a long exposure from the same position. It replaces the foreground of the other frames."
            : "They replace the others below the line. Oxlen finds masts and trees above it in the first of them."}
        </span>
      </p>
      {missing.length > 0 && (
        <Button className="mt-2" onClick={() => onAddTakes(missing)}>
          {missing.length === 1 ? "Add foreground take" : `Add ${missing.length} foreground takes`}
        </Button>
      )}
      <details className="mt-1">
        <summary className="min-h-11 cursor-pointer py-2">
          {land.length === 0 ? "Choose frames" : `Chosen: ${land.join(", ")}`}
        </summary>
        <ul className="max-h-48 overflow-y-auto">
          {set.names.map((name) => (
            <li key={name}>
              <label className="flex min-h-9 cursor-pointer items-center gap-2.5">
                <input
                  type="checkbox"
                  className="h-4.5 w-4.5 accent-(--accent)"
                  checked={land.includes(name)}
                  onChange={(event) =>
                    onChange({
                      land: event.target.checked
                        ? [...land, name]
                        : land.filter((frame) => frame !== name),
                    })
                  }
                />
                {name}
              </label>
            </li>
          ))}
        </ul>
      </details>
      {land.length > 0 && (
        <div className="mt-2 w-44">
          <NumberField
            label="Foreground brighter by"
            unit="stops"
            value={asked.land_lift_stops}
            low={-6}
            high={6}
            onCommit={(value) => onChange({ land_lift_stops: value ?? 0 })}
          />
        </div>
      )}
    </section>
  );
}
