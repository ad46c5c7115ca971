import type { PlaceBody } from "../../api/client";
import { Button } from "../../ui/Button";
import { NumberField } from "../../ui/Field";

interface Props {
  body: PlaceBody;
  onChange: (part: Partial<PlaceBody>) => void;
}

/** What hides the sky low down, and the glow of towns: a few bearings each. */
export function LowSky({ body, onChange }: Props) {
  const { horizon, glow } = body;
  return (
    <>
      <fieldset className="rounded border border-line p-2">
        <legend className="px-1 text-[0.85rem] text-soft">What hides the sky</legend>
        {horizon.map((one, at) => (
          <div key={at} className="mb-1.5 grid grid-cols-[1fr_1fr_auto] items-end gap-2">
            <NumberField
              label="Bearing"
              unit="°"
              value={one.bearing_deg}
              low={0}
              high={360}
              onCommit={(value) =>
                value !== null &&
                onChange({ horizon: replaced(horizon, at, { ...one, bearing_deg: value }) })
              }
            />
            <NumberField
              label="Up to"
              unit="°"
              value={one.height_deg}
              low={0}
              high={90}
              onCommit={(value) =>
                value !== null &&
                onChange({ horizon: replaced(horizon, at, { ...one, height_deg: value }) })
              }
            />
            <Button look="quiet" onClick={() => onChange({ horizon: without(horizon, at) })}>
              Remove
            </Button>
          </div>
        ))}
        <Button
          onClick={() => onChange({ horizon: [...horizon, { bearing_deg: 0, height_deg: 10 }] })}
        >
          Add a bearing
        </Button>
      </fieldset>
      <fieldset className="rounded border border-line p-2">
        <legend className="px-1 text-[0.85rem] text-soft">Glow of towns</legend>
        {glow.map((one, at) => (
          <div key={at} className="mb-1.5 grid grid-cols-[1fr_1fr_auto] items-end gap-2">
            <NumberField
              label="Bearing"
              unit="°"
              value={one.bearing_deg}
              low={0}
              high={360}
              onCommit={(value) =>
                value !== null &&
                onChange({ glow: replaced(glow, at, { ...one, bearing_deg: value }) })
              }
            />
            <NumberField
              label="Lifts the sky by"
              unit="stops"
              value={one.stops}
              low={0}
              high={10}
              onCommit={(value) =>
                value !== null && onChange({ glow: replaced(glow, at, { ...one, stops: value }) })
              }
            />
            <Button look="quiet" onClick={() => onChange({ glow: without(glow, at) })}>
              Remove
            </Button>
          </div>
        ))}
        <Button onClick={() => onChange({ glow: [...glow, { bearing_deg: 0, stops: 1 }] })}>
          Add a glow
        </Button>
      </fieldset>
    </>
  );
}

const replaced = <T,>(all: readonly T[], at: number, one: T) =>
  all.map((kept, place) => (place === at ? one : kept));
const without = <T,>(all: readonly T[], at: number) => all.filter((_, place) => place !== at);
