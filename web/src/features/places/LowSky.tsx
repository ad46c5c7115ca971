import type { PlaceBody } from "../../api/client";
import { Button } from "../../ui/Button";
import { NumberField } from "../../ui/Field";

interface Props {
  body: PlaceBody;
  onChange: (part: Partial<PlaceBody>) => void;
}

/** Horizon low down, and the glow of towns: a few bearings each. */
export function LowSky({ body, onChange }: Props) {
  return (
    <>
      <Bearings
        legend="Horizon"
        add="Add bearing"
        value={{ label: "Height", unit: "°", high: 90, first: 10 }}
        entries={body.horizon.map((entry) => [entry.bearing_deg, entry.height_deg])}
        onChange={(all) =>
          onChange({
            horizon: all.map(([bearing_deg, height_deg]) => ({ bearing_deg, height_deg })),
          })
        }
      />
      <Bearings
        legend="Light pollution"
        add="Add light pollution"
        value={{ label: "Brighter by", unit: "stops", high: 10, first: 1 }}
        entries={body.glow.map((entry) => [entry.bearing_deg, entry.stops])}
        onChange={(all) =>
          onChange({ glow: all.map(([bearing_deg, stops]) => ({ bearing_deg, stops })) })
        }
      />
    </>
  );
}

type Entry = [bearing: number, value: number];

interface BearingsProps {
  legend: string;
  add: string;
  value: { label: string; unit: string; high: number; first: number };
  entries: Entry[];
  onChange: (entries: Entry[]) => void;
}

/** A list of bearings, each with a value. */
function Bearings({ legend, add, value, entries, onChange }: BearingsProps) {
  const put = (at: number, entry: Entry) =>
    onChange(entries.map((item, place) => (place === at ? entry : item)));
  return (
    <fieldset className="rounded border border-line p-2">
      <legend className="px-1 text-[0.85rem] text-soft">{legend}</legend>
      {entries.map(([bearing, amount], at) => (
        <div key={at} className="mb-1.5 grid grid-cols-[1fr_1fr_auto] items-end gap-2">
          <NumberField
            label="Bearing"
            unit="°"
            value={bearing}
            low={0}
            high={360}
            onCommit={(next) => next !== null && put(at, [next, amount])}
          />
          <NumberField
            label={value.label}
            unit={value.unit}
            value={amount}
            low={0}
            high={value.high}
            onCommit={(next) => next !== null && put(at, [bearing, next])}
          />
          <Button look="quiet" onClick={() => onChange(entries.filter((_, place) => place !== at))}>
            Delete
          </Button>
        </div>
      ))}
      <Button onClick={() => onChange([...entries, [0, value.first]])}>{add}</Button>
    </fieldset>
  );
}
