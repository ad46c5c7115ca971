import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";

import type { KitPhone, PhoneProfile } from "../../api/client";
import { fixed, precise, signed, stops } from "../../ui/numbers";
import { LensViews } from "../phone/LensViews";
import { Measurements } from "../phone/Measurements";
import { portraitQuery } from "../phone/queries";
import { LadderRange } from "./LadderRange";
import { ByHand, fileWords } from "./PhoneDials";
import { SliderScales } from "./SliderScales";
import { Explained } from "../help/Explained";

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

interface Props {
  phone: KitPhone;
  actions: ReactNode;
  onKept: (kept: KitPhone) => void;
  /** Another phone to show: the copy that was measured. */
  onPhone: (id: string) => void;
}

export function PhoneView({ phone, actions, onKept, onPhone }: Props) {
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
      <PhonePortraitPart id={profile.id} />
      <Measurements key={profile.id} {...{ phone, onPhone }} />
      <details open className="mt-5">
        <summary className="min-h-11 cursor-pointer py-2 text-lg font-semibold">
          All figures and their sources
        </summary>
        <p className="mb-2 text-soft">
          Its meter reads {signed(profile.meter_offset_stops)} stop from the standard, ±{" "}
          {fixed(profile.meter_plus_minus_stops, 1)} {originWords(origins["meter_offset_stops"])}.
          <HeldWords share={profile.handling.upright_share} />
        </p>
        <ByHand profile={profile} />
        <div className="grid gap-4">
          {profile.lenses.map((lens) => (
            <LensBlock key={lens.id} {...{ lens, profile, origins, phone, onKept }} />
          ))}
        </div>
      </details>
    </section>
  );
}

/** What each lens sees, to scale, and what it is good for. */
function PhonePortraitPart({ id }: { id: string }) {
  const { data } = useQuery(portraitQuery(id));
  if (!data)
    return <div role="status" aria-label="Loading" className="mt-3 h-60 rounded bg-raised" />;
  return (
    <div className="mt-3 grid items-center gap-5 lg:grid-cols-[22rem_1fr]">
      <LensViews lenses={data.lenses} />
      <div className="overflow-x-auto">
        <table className="w-full text-left [&_td]:pr-3 [&_th]:pr-3">
          <thead>
            <tr className="align-bottom text-[0.88rem] text-soft">
              <th className="font-normal">Lens</th>
              <th className="font-normal">Handheld to</th>
              <th className="font-normal">Darkest scene, handheld</th>
              <th className="font-normal">Range</th>
            </tr>
          </thead>
          <tbody>
            {data.lenses.map((lens) => (
              <tr key={lens.lens} className="border-t border-line">
                <th className="py-2">{lens.name}</th>
                <td>{lens.longest_hand}</td>
                <td>
                  {lens.darkest}{" "}
                  <span className="text-soft">
                    EV {signed(lens.darkest_ev100).replace("+", "")}
                  </span>
                </td>
                <td>{lens.range_stops === null ? "none clean" : stops(lens.range_stops)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </div>
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
        <span>{tidy(lens.focal35_mm)} mm</span>
        <span>f/{tidy(lens.f_number)}</span>
        <span className="text-[0.9rem] text-soft">
          true focal length {tidy(lens.focal_mm)} mm; stabiliser {tidy(lens.stabiliser_stops)} stops{" "}
          {originWords(origins[`lenses.${lens.id}.stabiliser_stops`])}
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
  const facts: [string, string, string][] = [
    [
      "Pixels written",
      `${mode.width_px} × ${mode.height_px}, ${tidy(mode.pixel_pitch_um)} µm each`,
      "pixel_pitch_um",
    ],
    ["Full well", `${tidy(mode.full_well_e)} e⁻ at ISO ${mode.base_iso}`, "full_well_e"],
    [
      "Read noise",
      mode.read_noise_e.map(([iso, e]) => `${tidy(e)} e⁻ at ISO ${tidy(iso)}`).join(", "),
      "read_noise_e",
    ],
    [
      "Headroom over mid",
      `${tidy(mode.headroom_stops.processed)} stops processed, ${tidy(mode.headroom_stops.raw)} RAW`,
      "headroom_stops.processed",
    ],
    ["Files", fileWords(mode.files), "files.processed_mb"],
  ];
  if (mode.raw) facts.push(["RAW layout", rawWords(mode.raw), "raw.white_dn"]);
  return (
    <div className="mt-3 grid gap-x-6 gap-y-2 border-t border-line pt-2 lg:grid-cols-2">
      <div>
        <h4 className="font-semibold">{mode.name}</h4>
        <dl className="grid grid-cols-[minmax(0,auto)_minmax(0,1fr)] gap-x-3 text-[0.92rem] break-words">
          {facts.map(([name, value, figure]) => (
            <div key={name} className="contents">
              <dt className="text-soft">
                <Explained>{name}</Explained>
              </dt>
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

/** How a RAW file is laid out: mosaic, levels, what its colours are given for. */
function rawWords(raw: NonNullable<Mode["raw"]>): string {
  const { mosaic, black_dn: black, white_dn: white, active_px: active, matrices } = raw;
  const parts = [
    mosaic,
    typeof black === "number" && typeof white === "number" && `black ${black}, white ${white}`,
    active && `${active[0]} × ${active[1]} see light`,
    matrices.length > 0 && `colours for ${matrices.length === 1 ? "one light" : "two lights"}`,
  ];
  return parts.filter(Boolean).join("; ");
}

/** Which way its pictures were taken, where they say so. */
function HeldWords({ share }: { share: number | null | undefined }) {
  if (share === null || share === undefined) return null;
  const percent = Math.round(100 * Math.max(share, 1 - share));
  return (
    <>
      {" "}
      {percent} % of its pictures {share > 0.5 ? "upright" : "across"}.
    </>
  );
}

/** Where a figure comes from, how sure it is, and since when. */
function originWords(origin: Origins[string] | undefined): string {
  if (!origin) return "";
  const { plus_minus: doubt, date } = origin;
  const parts = [ORIGIN_WORDS[origin.origin], doubt ? `± ${tidy(doubt)}` : "", date];
  return `(${parts.filter(Boolean).join(", ")})`;
}

/** Three digits that count, no more. */
function tidy(value: number): number {
  return precise(value, 3);
}
