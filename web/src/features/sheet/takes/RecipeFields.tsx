import type { Recipe } from "../../../api/client";
import { NumberField } from "../../../ui/Field";

interface Props {
  recipe: Recipe;
  suggested: Recipe;
  onChange: (recipe: Recipe) => void;
}

type Plain =
  | "exposure_stops"
  | "shadows_stops"
  | "highlights_stops"
  | "black_share"
  | "level_deg"
  | "local_contrast"
  | "sharpening"
  | "noise_reduction";

const FIELDS: { name: Plain; label: string; unit?: string; low: number; high: number }[] = [
  { name: "exposure_stops", label: "Exposure", unit: "stops", low: -6, high: 6 },
  { name: "shadows_stops", label: "Shadows up", unit: "stops", low: 0, high: 6 },
  { name: "highlights_stops", label: "Highlights down", unit: "stops", low: 0, high: 6 },
  { name: "black_share", label: "Black at", unit: "of mid", low: 0, high: 0.5 },
  { name: "local_contrast", label: "Local contrast", low: 0, high: 1 },
  { name: "level_deg", label: "Rotate clockwise", unit: "°", low: -20, high: 20 },
  { name: "sharpening", label: "Sharpening", low: 0, high: 1 },
  { name: "noise_reduction", label: "Noise reduction", low: 0, high: 1 },
];
const EDGES = ["left", "top", "right", "bottom"] as const;

/** The steps as numbers, each changed by itself. */
export function RecipeFields({ recipe, suggested, onChange }: Props) {
  const change = (part: Partial<Recipe>) => onChange({ ...recipe, ...part });
  const { gradient, crop } = recipe;
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-2 md:grid-cols-4">
      <NumberField
        label="White balance"
        unit="K"
        value={recipe.white_k ?? null}
        low={1500}
        high={20000}
        placeholder="as taken"
        onCommit={(white_k) => change({ white_k })}
      />
      {FIELDS.map(({ name, label, unit, low, high }) => (
        <NumberField
          key={name}
          label={label}
          {...(unit ? { unit } : {})}
          {...{ low, high }}
          value={recipe[name]}
          onCommit={(value) => change({ [name]: value ?? 0 })}
        />
      ))}
      <NumberField
        label="Upper part"
        unit="stops"
        low={-6}
        high={6}
        value={gradient?.stops ?? 0}
        onCommit={(stops) =>
          change({
            gradient: stops ? { ...(gradient ?? suggested.gradient ?? HALF), stops } : null,
          })
        }
      />
      {gradient && (
        <NumberField
          label="Edge position"
          unit="%"
          low={0}
          high={100}
          value={100 * gradient.height_share}
          onCommit={(at) => change({ gradient: { ...gradient, height_share: (at ?? 50) / 100 } })}
        />
      )}
      {EDGES.map((edge, place) => (
        <NumberField
          key={edge}
          label={`Cut off ${edge}`}
          unit="%"
          low={0}
          high={90}
          value={100 * (place < 2 ? (crop[place] ?? 0) : 1 - (crop[place] ?? 1))}
          onCommit={(off) => change({ crop: cropped(recipe, place, (off ?? 0) / 100) })}
        />
      ))}
    </div>
  );
}

const HALF = { height_share: 0.5, stops: 0, tilt_deg: 0, fade_share: 0.15 };

function cropped(recipe: Recipe, place: number, off: number): [number, number, number, number] {
  const next: [number, number, number, number] = [...recipe.crop];
  next[place] = place < 2 ? off : 1 - off;
  return next;
}
