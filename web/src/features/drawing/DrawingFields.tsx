import type { LampDrawing } from "../../api/client";
import { NumberField, TextField } from "../../ui/Field";
import { LampColours } from "./LampColours";

interface Props {
  drawing: LampDrawing;
  shapes: string[];
  colours: string[];
  onChange: (part: Partial<LampDrawing>) => void;
}

type Figure =
  | "height_m"
  | "distance_m"
  | "hand_m_s"
  | "margin_s"
  | "lamp_lm"
  | "lamp_mm"
  | "dim_stops"
  | "parts";

const FIGURES: { name: Figure; label: string; unit: string; low: number; high: number }[] = [
  { name: "height_m", label: "Height", unit: "m", low: 0.02, high: 20 },
  { name: "distance_m", label: "Distance from phone", unit: "m", low: 0.2, high: 200 },
  { name: "hand_m_s", label: "Hand speed", unit: "m/s", low: 0.02, high: 10 },
  { name: "margin_s", label: "Spare time", unit: "s", low: 0, high: 60 },
  { name: "lamp_lm", label: "Lamp", unit: "lm", low: 0.01, high: 100000 },
  { name: "lamp_mm", label: "Lamp size", unit: "mm", low: 0.5, high: 500 },
  { name: "dim_stops", label: "Dimmed by", unit: "stops", low: 0, high: 12 },
  { name: "parts", label: "Frames", unit: "", low: 1, high: 12 },
];

/** Drawing, how large and how fast, and with which lamp. */
export function DrawingFields({ drawing, shapes, colours, onChange }: Props) {
  return (
    <section aria-label="Drawing" className="rounded border border-line bg-panel p-4">
      <TextField
        label="Word or shape"
        value={drawing.what}
        maxLength={24}
        onCommit={(what) => onChange({ what })}
      />
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        {shapes.map((shape) => (
          <button
            key={shape}
            type="button"
            className="min-h-9 rounded border border-line bg-raised px-3 hover:bg-sunk aria-pressed:border-accent aria-pressed:bg-accent-soft"
            aria-pressed={drawing.what === shape}
            onClick={() => onChange({ what: shape })}
          >
            {shape}
          </button>
        ))}
      </div>
      <div className="mt-3 grid grid-cols-2 gap-x-3 gap-y-2">
        {FIGURES.map(({ name, label, unit, low, high }) => (
          <NumberField
            key={name}
            label={label}
            {...(unit ? { unit } : {})}
            {...{ low, high }}
            value={drawing[name]}
            onCommit={(value) => {
              if (value !== null) onChange({ [name]: value });
            }}
          />
        ))}
      </div>
      <LampColours {...{ drawing, colours, onChange }} />
    </section>
  );
}
