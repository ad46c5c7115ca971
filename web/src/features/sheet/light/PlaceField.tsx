import { Slider } from "radix-ui";
import { useState } from "react";

import type { LightReading, TonePlace } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { useAsks } from "../limits/useAsks";
import { rounded, signed } from "../../../ui/numbers";

const DEFAULT = "default";
const OWN = "own";

interface Props {
  reading: LightReading;
  tones: TonePlace[];
  onPlace: (place: number | null) => void;
}

/** The tone wanted for a reading: a named one, or any by the slider. */
export function PlaceField({ reading, tones, onPlace }: Props) {
  const [moving, setMoving] = useState<number | null>(null);
  const place = moving ?? reading.place;
  const named = tones.find((tone) => Math.abs(tone.stops - reading.place) < 0.001);
  const choice = reading.place_is_default ? DEFAULT : (named?.id ?? OWN);
  const { low, high, step } = useAsks().place ?? { low: place, high: place + 1, step: 1 };
  const fixed = reading.kind === "frame";
  // Under a thumb a third of a stop is easier tapped than dragged.
  const third = (way: 1 | -1) => (
    <Button
      className="min-[900px]:hidden"
      disabled={fixed || place + way / 3 < low || place + way / 3 > high}
      aria-label={`${reading.name || reading.id} ⅓ stop ${way < 0 ? "darker" : "brighter"}`}
      onClick={() => onPlace(rounded(place + way / 3, 2))}
    >
      {way < 0 ? "−⅓" : "+⅓"}
    </Button>
  );
  return (
    <div className="flex items-center gap-2 max-[899px]:flex-wrap">
      <Slider.Root
        className="relative flex h-8 min-w-20 flex-1 touch-none items-center max-[899px]:h-11 max-[899px]:basis-full"
        min={low}
        max={high}
        step={step}
        value={[place]}
        disabled={fixed}
        onValueChange={([next]) => setMoving(next ?? null)}
        onValueCommit={([next]) => {
          setMoving(null);
          if (next !== undefined) onPlace(rounded(next, 1));
        }}
      >
        <Slider.Track className="relative h-1.5 flex-1 rounded bg-strong">
          <span
            className="absolute top-[-3px] h-3 w-0.5 bg-ink"
            style={{ left: `${(-low / (high - low)) * 100}%` }}
          />
        </Slider.Track>
        <Slider.Thumb
          aria-label={`Wanted tone of ${reading.name || reading.id}, stops from mid`}
          className="block h-5 w-3.5 rounded-xs border-2 border-raised bg-accent max-[899px]:h-9 max-[899px]:w-6"
        />
      </Slider.Root>
      {third(-1)}
      <b className="w-11 text-right max-[899px]:text-center">{signed(place)}</b>
      {third(1)}
      <select
        aria-label={`Named tone of ${reading.name || reading.id}`}
        className="field max-w-44 max-[899px]:max-w-none max-[899px]:flex-1"
        disabled={fixed}
        value={choice}
        onChange={(event) => {
          const tone = tones.find((each) => each.id === event.target.value);
          onPlace(tone ? tone.stops : null);
        }}
      >
        <option value={DEFAULT}>
          {reading.place_is_default ? "Default" : "Back to the default"}
        </option>
        {choice === OWN && <option value={OWN}>Custom</option>}
        {tones.map((tone) => (
          <option key={tone.id} value={tone.id} title={tone.reason}>
            {tone.name} {signed(tone.stops)}
          </option>
        ))}
      </select>
    </div>
  );
}
