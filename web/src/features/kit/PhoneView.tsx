import type { ReactNode } from "react";

import type { KitPhone, PhoneProfile } from "../../api/client";
import { signed } from "../labels";
import { LadderRange } from "./LadderRange";
import { ByHand, fileWords } from "./PhoneDials";
import { SliderScales } from "./SliderScales";

type Lens = PhoneProfile["lenses"][number];
type Mode = Lens["modes"][number];

/** A phone as the decision sees it. */
type Origins = KitPhone["origins"];

const ORIGIN_WORDS: Record<Origins[string]["origin"], string> = {
  assumed: "assumed",
  file: "from its files",
  measured: "measured",
  typed: "typed in",
};

export function PhoneView({
  phone,
  actions,
  onKept,
}: {
  phone: KitPhone;
  actions: ReactNode;
  onKept: (kept: KitPhone) => void;
}) {
  const { profile, origins } = phone;
  return (
    <section
      aria-label={profile.name}
      className="min-w-0 rounded border border-line bg-panel p-4 md:mt-5"
    >
      <div className="mb-1 flex flex-wrap items-start gap-2">
        <h2 className="mr-auto text-xl font-semibold">{profile.name}</h2>
        {actions}
      </div>
      <p className="max-w-[70ch] text-soft">{profile.note}</p>
      <p className="mb-4 text-soft">
        Its meter reads {signed(profile.meter_offset_stops)} stop from the standard, ±{" "}
        {profile.meter_plus_minus_stops.toFixed(1)}.
      </p>
      <ByHand profile={profile} />
      <div className="grid gap-4">
        {profile.lenses.map((lens) => (
          <LensBlock key={lens.id} {...{ lens, profile, origins, phone, onKept }} />
        ))}
      </div>
    </section>
  );
}

interface BlockProps {
  lens: Lens;
  profile: PhoneProfile;
  origins: Origins;
}

function LensBlock({
  lens,
  profile,
  origins,
  phone,
  onKept,
}: BlockProps & { phone: KitPhone; onKept: (kept: KitPhone) => void }) {
  return (
    <article className="rounded border border-line bg-raised p-3">
      <h3 className="flex flex-wrap items-baseline gap-x-4 text-lg">
        <b>{lens.name}</b>
        <span>{lens.focal35_mm} mm</span>
        <span>f/{lens.f_number}</span>
        <span className="text-[0.9rem] text-soft">
          true focal length {lens.focal_mm} mm; stabiliser {lens.stabiliser_stops} stops
        </span>
      </h3>
      <SliderScales {...{ phone, lens, onKept }} />
      {lens.modes.map((mode) => (
        <ModeBlock key={mode.id} {...{ lens, mode, profile, origins }} />
      ))}
    </article>
  );
}

function ModeBlock({ lens, mode, profile, origins }: BlockProps & { mode: Mode }) {
  const manual = profile.ladders[mode.manual];
  const auto = profile.ladders[mode.auto];
  const facts: [string, string, keyof Mode][] = [
    [
      "Pixels written",
      `${mode.width_px} × ${mode.height_px}, ${mode.pixel_pitch_um} µm each`,
      "pixel_pitch_um",
    ],
    ["Full well", `${mode.full_well_e} e⁻ at ISO ${mode.base_iso}`, "full_well_e"],
    [
      "Read noise",
      mode.read_noise_e.map(([iso, e]) => `${e} e⁻ at ISO ${iso}`).join(", "),
      "read_noise_e",
    ],
    [
      "Headroom over mid",
      `${mode.headroom_stops.processed} stops processed, ${mode.headroom_stops.raw} RAW`,
      "headroom_stops",
    ],
    ["Files", fileWords(mode.files), "files"],
  ];
  return (
    <div className="mt-3 grid gap-x-6 gap-y-2 border-t border-line pt-2 lg:grid-cols-2">
      <div>
        <h4 className="font-semibold">{mode.name}</h4>
        <dl className="grid grid-cols-[auto_1fr] gap-x-3 text-[0.92rem]">
          {facts.map(([name, value, figure]) => (
            <div key={name} className="contents">
              <dt className="text-soft">{name}</dt>
              <dd>
                {value}{" "}
                <span className="text-soft">
                  {originWords(origins[`lenses.${lens.id}.${mode.id}.${figure}`])}
                </span>
              </dd>
            </div>
          ))}
        </dl>
      </div>
      {manual && auto && (
        <div className="grid content-start gap-3">
          <LadderRange kind="shutter" manual={manual.shutter_s} auto={auto.shutter_s} />
          <LadderRange kind="iso" manual={manual.iso} auto={auto.iso} />
        </div>
      )}
    </div>
  );
}

/** Where a figure comes from, how sure it is, and since when. */
function originWords(origin: Origins[string] | undefined): string {
  if (!origin) return "";
  const { plus_minus: doubt, date } = origin;
  const parts = [ORIGIN_WORDS[origin.origin], doubt != null && `± ${doubt}`, date];
  return `(${parts.filter(Boolean).join(", ")})`;
}
