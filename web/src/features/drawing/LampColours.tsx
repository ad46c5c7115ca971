import type { LampDrawing } from "../../api/client";
import { Select } from "../../ui/Field";

type Colour = LampDrawing["colours"][number];

interface Props {
  drawing: LampDrawing;
  colours: string[];
  onChange: (part: Partial<LampDrawing>) => void;
}

/** The lamp's colour in each frame of the drawing. */
export function LampColours({ drawing, colours, onChange }: Props) {
  const count = Math.max(drawing.parts, drawing.colours.length);
  const each = Array.from(
    { length: count },
    (_, at) => drawing.colours[at % drawing.colours.length] ?? "white",
  );
  const options = colours.map((colour) => ({ value: colour as Colour, text: colour }));
  return (
    <div className="mt-3 grid grid-cols-2 gap-x-3 gap-y-2">
      {each.map((colour, at) => (
        <Select
          key={at}
          label={count === 1 ? "Lamp colour" : `Lamp in frame ${at + 1}`}
          value={colour}
          options={options}
          onChange={(chosen) =>
            onChange({ colours: each.map((colour, place) => (place === at ? chosen : colour)) })
          }
        />
      ))}
    </div>
  );
}
