import { useQuery } from "@tanstack/react-query";

import type { SheetView, Take, TakeChecked } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { fixed, percent, signed } from "../../../ui/numbers";
import { LandedRail } from "./LandedRail";
import { takeCheckQuery } from "./queries";
import { Explained } from "../../help/Explained";

interface Props {
  take: Take;
  sheet: SheetView;
  /** Change the sheet as the correction says. */
  onCorrect: (found: TakeChecked) => void;
}

/** What is off in a take against its plan, what to change first, and the measurements behind it. */
export function TakeVerdict({ take, sheet, onCorrect }: Props) {
  const { data: found, error } = useQuery(takeCheckQuery(take.id, sheet.version));
  if (error) return <p role="alert">{error.message}</p>;
  if (!found) return <p role="status">Comparing with the plan…</p>;
  const { next } = found;
  const isCorrected = Object.keys(found.patch).length > 0;
  return (
    <section aria-label="Compared with the plan" className="grid content-start gap-3">
      <div className="rounded border-2 border-ink bg-raised p-3">
        <p className="text-lg font-semibold">
          <Explained>{next.one_change}</Explained>
        </p>
        <p>
          <Explained>{next.why}</Explained>
        </p>
        {isCorrected && (
          <div className="mt-2 flex flex-wrap items-center gap-3">
            <b className="text-xl">{next.slip}</b>
            <Button look="main" className="min-h-11" onClick={() => onCorrect(found)}>
              Use correction
            </Button>
          </div>
        )}
      </div>
      {found.verdict.length > 1 && (
        <ul className="list-disc pl-5">
          {found.verdict.slice(1).map((words) => (
            <li key={words}>
              <Explained>{words}</Explained>
            </li>
          ))}
        </ul>
      )}
      {found.spots.length > 0 && <LandedRail spots={found.spots} />}
      {found.notes.map((note) => (
        <p key={note} className="border-l-4 border-ink pl-2 text-[0.92rem]">
          {note}
        </p>
      ))}
      <details>
        <summary className="min-h-8 cursor-pointer py-1 max-[899px]:min-h-11">
          All measurements
        </summary>
        <Measured found={found} />
        {found.spots.length > 0 && <Spots found={found} />}
      </details>
    </section>
  );
}

function Spots({ found }: { found: TakeChecked }) {
  return (
    <table className="w-full text-left text-[0.95rem]">
      <thead>
        <tr className="text-soft">
          <th className="font-normal">Spot</th>
          <th className="font-normal">Wanted</th>
          <th className="font-normal">Planned</th>
          <th className="font-normal">Result</th>
          <th className="font-normal" />
        </tr>
      </thead>
      <tbody>
        {found.spots.map((spot) => (
          <tr key={spot.name} className="border-t border-line">
            <th className="py-1.5 pr-3 font-semibold">{spot.name}</th>
            <td>{signed(spot.wanted_stops)}</td>
            <td>{signed(spot.planned_stops)}</td>
            <td>{spot.lost ? "–" : signed(spot.seen_stops)}</td>
            <td className={spot.lost ? "font-semibold" : ""}>{spot.words}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const BLUR: Record<NonNullable<TakeChecked["blur"]>["kind"], string> = {
  none: "none",
  shake: "camera shake",
  motion: "subject moved",
  defocus: "out of focus",
};

function Measured({ found }: { found: TakeChecked }) {
  const { blur, level_deg, cast_mired, snr, clipped_share, blocked_share, settings_off } = found;
  const rows: [string, string | null][] = [
    ["Settings", dialled(settings_off)],
    [
      "Blur",
      blur && (blur.kind === "none" ? BLUR.none : `${BLUR[blur.kind]}, ${fixed(blur.px, 1)} px`),
    ],
    ["Tilt", level_deg === null ? null : `${signed(level_deg)}°`],
    ["Cast", cast_mired === null ? null : `${signed(cast_mired, 0)} mired`],
    ["Noise", snr === null ? null : noise(snr, found.planned_snr)],
    ["Bands", found.bands && `${percent(found.bands.depth)} deep`],
    ["Verticals", converging(found.converging_deg)],
    ["Sky", found.sky && skyWords(found.sky.sky_share, found.planned_sky?.sky_share)],
    ["Clipped", clipped_share === null ? null : percent(clipped_share)],
    ["Black", blocked_share === null ? null : percent(blocked_share)],
  ];
  return (
    <dl className="grid grid-cols-[auto_1fr_auto_1fr] gap-x-3 gap-y-1 text-[0.93rem] max-[480px]:grid-cols-[auto_1fr]">
      {rows.map(
        ([name, value]) =>
          value !== null && (
            <div key={name} className="contents">
              <dt className="text-soft">
                <Explained>{name}</Explained>
              </dt>
              <dd>
                <Explained>{value}</Explained>
              </dd>
            </div>
          ),
      )}
    </dl>
  );
}

function noise(snr: number, planned: number | null): string {
  const words = `SNR ${Math.round(snr)} a pixel`;
  return planned === null ? words : `${words}, predicted ${Math.round(planned)}`;
}

function converging(degrees: number | null): string | null {
  if (degrees === null) return null;
  if (Math.abs(degrees) < 1) return "parallel";
  return `meet ${degrees > 0 ? "above" : "below"}, ${fixed(Math.abs(degrees), 0)}° over the frame`;
}

function skyWords(share: number, planned: number | undefined): string {
  const words = `${percent(share)} of the frame`;
  if (planned === undefined || Math.abs(share - planned) < 0.04) return words;
  return `${words}, planned ${percent(planned)}`;
}

function dialled(off: TakeChecked["settings_off"]): string | null {
  const { iso_stops, shutter_stops } = off;
  if (iso_stops === null && shutter_stops === null) return "not in the file";
  const stops = (iso_stops ?? 0) + (shutter_stops ?? 0);
  return Math.abs(stops) < 0.1 ? "same as the slip" : `${signed(stops)} stops from the slip`;
}
