import { useState } from "react";
import { useQuery, useQueryClient } from "@tanstack/react-query";

import type { KitPhone, PhoneProfile } from "../../api/client";
import { Button } from "../../ui/Button";
import { Select } from "../../ui/Field";
import { useSay } from "../../ui/Notices";
import { clipOnsQuery } from "../sheet/queries";
import { LadderDialog } from "./LadderDialog";
import { centimetres } from "./PhoneDials";
import { dropSliderPoint } from "./queries";

type Lens = PhoneProfile["lenses"][number];
type Focus = NonNullable<Lens["focus"]>;
type Scale = Focus["scales"][number];

interface Props {
  phone: KitPhone;
  lens: Lens;
  onKept: (kept: KitPhone) => void;
}

/** How near a lens focuses, its slider's scales as they were measured, and a ladder to add to them. */
export function SliderScales({ phone, lens, onKept }: Props) {
  const [clipOn, setClipOn] = useState("");
  const [open, setOpen] = useState(false);
  const { data: clipOns = [] } = useQuery(clipOnsQuery);
  const client = useQueryClient();
  const say = useSay();
  const { focus } = lens;
  const kept = (entry: KitPhone) => {
    void client.invalidateQueries({ queryKey: ["phones"] });
    onKept(entry);
    setOpen(false);
  };
  const drop = (scale: Scale, value: number) =>
    dropSliderPoint(phone.profile.id, lens.id, scale.clip_on, value).then(kept, (error: unknown) =>
      say(error instanceof Error ? error.message : String(error)),
    );
  const worn = clipOns.filter(({ clip_on }) => !clip_on.lens || clip_on.lens === lens.id);
  return (
    <div className="text-[0.92rem]">
      <p>
        {focus
          ? `Focuses from ${centimetres(focus.closest_m)}${focus.by_hand ? `, slider in steps of ${focus.slider_step}` : ", autofocus only"}`
          : "Its focus slider is not measured yet."}
      </p>
      {focus?.scales.map((scale) => (
        <ScaleRow
          key={scale.clip_on}
          scale={scale}
          recheck={
            phone.rechecks.find(
              (recheck) => recheck.lens === lens.id && recheck.clip_on === scale.clip_on,
            )?.words ?? ""
          }
          onDrop={phone.shipped ? null : (value) => void drop(scale, value)}
        />
      ))}
      {focus?.by_hand !== false && (
        <div className="mt-1 flex flex-wrap items-center gap-2">
          {worn.length > 0 && (
            <span className="w-44">
              <Select
                hideLabel
                label={`Clip-on over ${lens.name}`}
                value={clipOn}
                options={[
                  { value: "", text: "bare lens" },
                  ...worn.map(({ clip_on }) => ({ value: clip_on.name, text: clip_on.name })),
                ]}
                onChange={setClipOn}
              />
            </span>
          )}
          <Button aria-label={`Focus ladder for ${lens.name}`} onClick={() => setOpen(true)}>
            Focus ladder…
          </Button>
        </div>
      )}
      {open && (
        <LadderDialog
          phone={{ id: phone.profile.id, name: phone.profile.name, shipped: phone.shipped }}
          lens={lens}
          clipOn={clipOn}
          onClose={() => setOpen(false)}
          onKept={kept}
        />
      )}
    </div>
  );
}

interface RowProps {
  scale: Scale;
  recheck: string;
  /** Without it the points stay: a phone that ships with Oxlen. */
  onDrop: ((value: number) => void) | null;
}

/** One scale: its points from near to far, each with its doubt and a way to take it out. */
function ScaleRow({ scale, recheck, onDrop }: RowProps) {
  const newest = scale.points
    .map((point) => point.date)
    .sort()
    .at(-1);
  const made = [newest, scale.software && `software ${scale.software}`].filter(Boolean).join(", ");
  return (
    <div className="my-1">
      <span className="text-soft">
        Slider{scale.clip_on ? ` with ${scale.clip_on}` : ""}
        {made ? `, ${made}` : ""}
        {scale.points.length < 2 ? "; one more point and the slider shows distances" : ""}
      </span>
      <ul className="flex flex-wrap gap-1.5">
        {scale.points.map((point) => (
          <li
            key={point.value}
            title={[point.found, point.date].filter(Boolean).join(", ")}
            className="flex items-center rounded border border-line bg-panel pl-2"
          >
            <span>
              <b>{point.value}</b> {centimetres(point.distance_m)}
              {point.plus_minus ? <span className="text-soft"> ± {point.plus_minus}</span> : null}
            </span>
            {onDrop ? (
              <button
                type="button"
                className="min-h-11 min-w-9 text-soft"
                aria-label={`Remove slider value ${point.value}`}
                onClick={() => onDrop(point.value)}
              >
                ×
              </button>
            ) : (
              <span className="w-2" />
            )}
          </li>
        ))}
      </ul>
      {recheck && <p className="font-semibold">{recheck}</p>}
    </div>
  );
}
