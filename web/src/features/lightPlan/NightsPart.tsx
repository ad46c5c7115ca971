import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { PlaceView } from "../../api/client";
import { ButtonLink } from "../../ui/ButtonLink";
import { NumberField } from "../../ui/Field";
import { Segmented } from "../../ui/Segmented";
import { asAddress, nightsQuery } from "./queries";
import { dayLabel } from "../../ui/numbers";

const SPANS = [
  { value: "month", text: "A month" },
  { value: "year", text: "A year" },
] as const;
const MOONS = [
  { value: "down", text: "Moon down" },
  { value: "thin", text: "Or thin" },
  { value: "any", text: "Any Moon" },
] as const;

const AIMS = [
  { value: "core", text: "Milky Way core" },
  { value: "point", text: "Star or point" },
  { value: "dark", text: "Darkness only" },
] as const;

export interface Wanted {
  moon: (typeof MOONS)[number]["value"];
  centre: boolean;
  above_deg: number;
  /** A point among the stars instead of the core, in degrees (J2000). */
  ra_deg?: number | null;
  dec_deg?: number | null;
}

interface Props {
  place: PlaceView;
  date: string;
  onDate: (date: string) => void;
  wanted: Wanted;
  onWanted: (wanted: Wanted) => void;
}

/** The best nights from a day on, each with why; one is chosen by a click. */
export function NightsPart({ place, date, onDate, wanted, onWanted }: Props) {
  const [span, setSpan] = useState<(typeof SPANS)[number]["value"]>("month");
  const [hours, setHours] = useState<{ from: number | null; to: number | null }>({
    from: null,
    to: null,
  });
  const aim = !wanted.centre ? "dark" : typeof wanted.ra_deg === "number" ? "point" : "core";
  const asked = { ...wanted, date, span, from_hour: hours.from, to_hour: hours.to };
  const { data: nights, error, isFetching } = useQuery(nightsQuery(place.id, asked));
  return (
    <section
      aria-label="Dark nights"
      className="self-start rounded border border-line bg-panel p-4"
    >
      <h2 className="text-lg font-semibold">Best nights</h2>
      <details className="mt-1">
        <summary className="min-h-9 cursor-pointer py-1.5 max-[899px]:min-h-11">
          Filters: {filters(wanted, aim)}
        </summary>
        <div className="mt-1 grid gap-2">
          <Segmented label="Span" value={span} options={SPANS} onChange={setSpan} />
          <Segmented
            label="Moon"
            value={wanted.moon}
            options={MOONS}
            onChange={(moon) => onWanted({ ...wanted, moon })}
          />
          <Segmented
            label="Target"
            value={aim}
            options={AIMS}
            onChange={(to) =>
              onWanted({
                ...wanted,
                centre: to !== "dark",
                ra_deg: to === "point" ? 83.8 : null,
                dec_deg: to === "point" ? -5.4 : null,
              })
            }
          />
          {aim === "point" && (
            <div className="grid grid-cols-2 gap-2">
              <NumberField
                label="Right ascension"
                unit="°"
                value={wanted.ra_deg ?? null}
                low={0}
                high={360}
                onCommit={(ra_deg) => ra_deg !== null && onWanted({ ...wanted, ra_deg })}
              />
              <NumberField
                label="Declination"
                unit="°"
                value={wanted.dec_deg ?? null}
                low={-90}
                high={90}
                onCommit={(dec_deg) => dec_deg !== null && onWanted({ ...wanted, dec_deg })}
              />
            </div>
          )}
          <div className="grid grid-cols-3 gap-2">
            <NumberField
              label="Minimum height"
              unit="°"
              value={wanted.above_deg}
              low={0}
              high={89}
              onCommit={(value) => onWanted({ ...wanted, above_deg: value ?? 10 })}
            />
            <NumberField
              label="From"
              unit="h"
              value={hours.from}
              low={0}
              high={24}
              onCommit={(from) => setHours({ ...hours, from })}
            />
            <NumberField
              label="To"
              unit="h"
              value={hours.to}
              low={0}
              high={24}
              onCommit={(to) => setHours({ ...hours, to })}
            />
          </div>
        </div>
      </details>
      {error && <p role="alert">{error.message}</p>}
      {nights && (
        <div className={isFetching ? "opacity-60" : ""}>
          <p className="mt-3 text-soft">{nights.words}.</p>
          <ol className="mt-1 grid gap-1">
            {nights.best.map((night) => (
              <li key={night.from_at}>
                <button
                  type="button"
                  aria-pressed={night.night === date}
                  className="w-full rounded border border-line bg-raised px-3 py-2 text-left hover:bg-sunk aria-pressed:border-accent aria-pressed:bg-accent-soft"
                  onClick={() => onDate(night.night)}
                >
                  <b className="tabular-nums">{dayLabel(night.night)}</b>
                  <span className="block text-[0.93rem]" data-fact={`window of ${night.night}`}>
                    {night.why}
                  </span>
                </button>
              </li>
            ))}
          </ol>
          {nights.best.length > 0 && (
            <ButtonLink
              className="mt-2"
              href={`/api/places/${place.id}/nights.ics?${asAddress(asked)}`}
            >
              Add to calendar
            </ButtonLink>
          )}
        </div>
      )}
    </section>
  );
}

/** The filters in force, in short. */
function filters(wanted: Wanted, aim: (typeof AIMS)[number]["value"]): string {
  const moon = { down: "Moon down", thin: "thin Moon", any: "any Moon" }[wanted.moon];
  const target = AIMS.find((each) => each.value === aim)?.text ?? "";
  return [moon, target, aim === "dark" ? "" : `${wanted.above_deg}° up`].filter(Boolean).join(", ");
}
