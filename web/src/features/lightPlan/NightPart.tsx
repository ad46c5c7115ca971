import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useLocation } from "wouter";

import { ask, type NightPlan, type PlaceView, type SheetView } from "../../api/client";
import { NumberField, Select } from "../../ui/Field";
import { Segmented } from "../../ui/Segmented";
import { phonesQuery } from "../sheet/queries";
import { dayLabel } from "../../ui/numbers";
import { clockOf } from "./dayAxis";
import { LandOfNight } from "./LandOfNight";
import { SkyFrame } from "./SkyFrame";
import type { Wanted } from "./NightsPart";
import { asAddress, nightQuery } from "./queries";
import { WaysOfNight } from "./WaysOfNight";

const RULES = [
  { value: "npf", text: "Full size" },
  { value: "500", text: "On screen" },
  { value: "pixels", text: "In pixels" },
] as const;
const TWILIGHTS: Record<string, string> = {
  sunset: "Sunset",
  astro_dusk: "Night begins",
  astro_dawn: "Night ends",
  sunrise: "Sunrise",
};

interface Props {
  place: PlaceView;
  date: string;
  wanted: Wanted;
}

/** One night at a place: when it is dark, how the Milky Way leans, and each way to the picture. */
export function NightPart({ place, date, wanted }: Props) {
  const [, go] = useLocation();
  const { data: phones = [] } = useQuery(phonesQuery);
  const [phone, setPhone] = useState<string | null>(null);
  const [lens, setLens] = useState<string | null>(null);
  const [rule, setRule] = useState<(typeof RULES)[number]["value"]>("npf");
  const [trail, setTrail] = useState(4);
  const [snr, setSnr] = useState(20);
  const [arc, setArc] = useState(15);
  const [land, setLand] = useState("silhouette");
  const [landStops, setLandStops] = useState(0);
  const [ground, setGround] = useState("0.15");
  const shot = { phone, lens, rule, trail_px: trail, snr, arc_deg: arc };
  const asked = { ...wanted, date, ...shot, land_stops: landStops, land_reflects: ground };
  const { data: night, error } = useQuery(nightQuery(place.id, asked));
  const make = useMutation({
    mutationFn: async (way: string) => {
      const outing = await outingFor(place, date);
      return ask<SheetView>(`/places/${place.id}/night?${asAddress(asked)}`, {
        method: "POST",
        body: { outing_id: outing, way, land },
      });
    },
    onSuccess: (sheet) => go(`/sheets/${sheet.id}`),
  });
  const lenses = phones.find((known) => known.profile.id === (phone ?? phones[0]?.profile.id))
    ?.profile.lenses;
  return (
    <section aria-label="Night" className="rounded border border-line bg-panel p-4">
      {(error ?? make.error) && <p role="alert">{(error ?? make.error)?.message}</p>}
      {night && (
        <>
          <Answer night={night} />
          <div className="mt-3">
            <SkyFrame key={`${night.date} ${night.lens}`} night={night} />
          </div>
          {night.band && (
            <p className="mt-1.5 text-soft">
              {night.band.words}, at {clockOf(night.band.at)}. An upright frame holds{" "}
              {Object.entries(night.band.held_shares)
                .map(([name, share]) => `${Math.round(100 * share)} % of it (${name})`)
                .join(", ")}
              .
            </p>
          )}
        </>
      )}
      <div className="mt-4 grid gap-x-3 gap-y-2 border-t border-line pt-3 sm:grid-cols-[1fr_1fr_7rem_7rem_14rem]">
        <Select
          label="Phone"
          value={phone ?? phones[0]?.profile.id ?? ""}
          options={phones.map((phone) => ({ value: phone.profile.id, text: phone.profile.name }))}
          onChange={(value) => {
            setPhone(value);
            setLens(null);
          }}
        />
        <Select
          label="Lens"
          value={lens ?? lenses?.[0]?.id ?? ""}
          options={(lenses ?? []).map((lens) => ({ value: lens.id, text: lens.name }))}
          onChange={setLens}
        />
        <NumberField
          label="SNR"
          value={snr}
          low={0.5}
          high={200}
          onCommit={(value) => setSnr(value ?? 20)}
        />
        <NumberField
          label="Trail length"
          unit="°"
          value={arc}
          low={0.5}
          high={180}
          onCommit={(value) => setArc(value ?? 15)}
        />
        <div>
          <p className="mb-0.5 text-[0.82rem] text-soft">Stars are points</p>
          <Segmented label="Stars are points" value={rule} options={RULES} onChange={setRule} />
          {rule === "pixels" && (
            <NumberField
              label="Trail, corners too"
              unit="px"
              value={trail}
              low={0.2}
              high={1000}
              onCommit={(value) => setTrail(value ?? 4)}
            />
          )}
        </div>
      </div>
      {night && night.land.length > 0 && (
        <div className="mt-2 grid gap-3 sm:grid-cols-[1fr_14rem_14rem]">
          <Select
            label="Foreground"
            value={land}
            options={night.land
              .filter((way) => way.reaches)
              .map((way) => ({ value: way.id, text: `${way.name}: ${way.label}` }))}
            onChange={setLand}
          />
          <Select
            label="Foreground material"
            value={ground}
            options={Object.entries(night.grounds).map(([value, text]) => ({ value, text }))}
            onChange={setGround}
          />
          <NumberField
            label="Brighter by"
            unit="stops"
            value={landStops}
            low={-4}
            high={6}
            onCommit={(value) => setLandStops(value ?? 0)}
          />
        </div>
      )}
      {night && (
        <WaysOfNight night={night} isBusy={make.isPending} onMake={(way) => make.mutate(way)} />
      )}
      {night && <LandOfNight night={night} chosen={land} onChoose={setLand} />}
    </section>
  );
}

/** When it is dark, first of all. */
function Answer({ night }: { night: NightPlan }) {
  const windows = night.core.length > 0 ? night.core : night.dark;
  return (
    <>
      {windows.map((window) => (
        <p key={window.from_at} className="text-xl font-semibold tabular-nums">
          {dayLabel(window.night)}, {clockOf(window.from_at)} to {clockOf(window.to_at)}
          <span
            className="block text-base font-normal text-soft"
            data-fact={`window of ${window.night}`}
          >
            {window.why}
          </span>
        </p>
      ))}
      {night.told.map((words) => (
        <p key={words} className={windows.length ? "text-soft" : "text-lg font-semibold"}>
          {words}.
        </p>
      ))}
      <p className="mt-1 text-soft tabular-nums">
        {Object.entries(TWILIGHTS)
          .filter(([name]) => night.twilights[name])
          .map(([name, text]) => `${text} ${clockOf(night.twilights[name] ?? "")}`)
          .join(" · ")}
        {" · "}Moon {Math.round(100 * night.moon_lit_share)} % lit
      </p>
    </>
  );
}

/** The outing of that night at the place; a new one where there is none yet. */
async function outingFor(place: PlaceView, date: string): Promise<number> {
  const made = await ask<{ id: number }>("/outings", {
    method: "POST",
    body: { title: `Night at ${place.body.name}`.slice(0, 120), place_id: place.id, date },
  });
  return made.id;
}
