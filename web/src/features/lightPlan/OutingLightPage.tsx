import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "wouter";

import type { OutingView, OutingWhen, SheetWhen } from "../../api/client";
import { Button } from "../../ui/Button";
import { ButtonLink } from "../../ui/ButtonLink";
import { NumberField, Select } from "../../ui/Field";
import { changeOuting, outingQuery } from "../outings/queries";
import { addPlace, placesQuery, positionOfPicture } from "../places/queries";
import { type Cloud, DayBar } from "./DayBar";
import { DayStrip, type LaneOfDay } from "./DayStrip";
import { asAddress, dayQuery, whenQuery } from "./queries";

/** When each sheet of an outing works on its day, and in which order they are taken. */
export function OutingLightPage({ id }: { id: number }) {
  const client = useQueryClient();
  const { data: outing, error: gone } = useQuery(outingQuery(id));
  const { data: places = [] } = useQuery(placesQuery);
  const [cloud, setCloud] = useState<Cloud>("clear");
  const [pace, setPace] = useState({ takes_min: 15, walk_min: 5, from_hour: 7 });
  const change = useMutation({
    mutationFn: (fields: { place_id?: number; date?: string }) => changeOuting(id, fields),
    onSuccess: () => client.invalidateQueries({ queryKey: ["outings"] }),
  });
  const place = places.find((place) => place.id === outing?.place_id);
  const date = outing?.date ?? place?.now.slice(0, 10) ?? "";
  const asked = { cloud, date: date || null, ...pace };
  const { data: when, error } = useQuery({
    ...whenQuery(id, { ...asked, place: place?.id }),
    enabled: place !== undefined,
  });
  const { data: day } = useQuery({
    ...dayQuery(place?.id ?? 0, { date, cloud }),
    enabled: place !== undefined,
  });
  const isDone = when?.state === "done";
  if (gone) return <p className="p-6">{gone.message}</p>;
  if (!outing) return <p className="p-6">Opening…</p>;
  return (
    <main className="mx-auto max-w-[84rem] px-4 pb-24 md:px-6">
      <Link href="/" className="mt-2 inline-flex min-h-11 items-center underline">
        All outings
      </Link>
      <h1 className="py-3 text-2xl font-semibold">Light for “{outing.title}”</h1>
      {(error ?? change.error) && <p role="alert">{(error ?? change.error)?.message}</p>}
      <div className="mb-3 flex flex-wrap items-end gap-3">
        <div className="w-64">
          <Select
            label="Place"
            value={String(outing.place_id ?? "")}
            options={[
              { value: "", text: "Choose a place" },
              ...places.map((place) => ({ value: String(place.id), text: place.body.name })),
            ]}
            onChange={(value) => value && change.mutate({ place_id: Number(value) })}
          />
        </div>
        {place && (
          <DayBar
            {...{ date, cloud }}
            onDate={(to) => change.mutate({ date: to })}
            onCloud={setCloud}
          />
        )}
      </div>
      {!place && (
        <p className="rounded border border-dashed border-strong p-6 text-soft">
          Choose a place to see the light, or{" "}
          <Link href="/places" className="underline">
            add one
          </Link>
          . <FromPictures outing={outing} onPlace={(place_id) => change.mutate({ place_id })} />
        </p>
      )}
      {place && day && (
        <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_22rem]">
          <section
            aria-label="Daylight"
            className="self-start rounded border border-line bg-panel p-4"
          >
            <DayStrip
              day={day}
              lanes={isDone ? when.sheets.map(laneOf) : outing.sheets.map(emptyLane)}
            />
          </section>
          <section aria-label="Order" className="rounded border border-line bg-panel p-4">
            <h2 className="text-lg font-semibold">Best time</h2>
            {isDone ? <Order when={when} /> : <OrderToCome outing={outing} when={when} />}
            <ButtonLink className="mt-3" href={`/api/outings/${id}/light.ics?${asAddress(asked)}`}>
              Add to calendar
            </ButtonLink>
            <div className="mt-3 grid grid-cols-[repeat(auto-fit,minmax(min(5.5rem,100%),1fr))] gap-3 border-t border-line pt-3">
              <NumberField
                label="Time per sheet"
                unit="min"
                value={pace.takes_min}
                low={1}
                high={240}
                onCommit={(value) => setPace({ ...pace, takes_min: value ?? 15 })}
              />
              <NumberField
                label="From"
                unit="h"
                value={pace.from_hour}
                low={0}
                high={24}
                onCommit={(value) => setPace({ ...pace, from_hour: value ?? 7 })}
              />
              <NumberField
                label="Walk"
                unit="min"
                value={pace.walk_min}
                low={0}
                high={240}
                onCommit={(value) => setPace({ ...pace, walk_min: value ?? 5 })}
              />
            </div>
          </section>
        </div>
      )}
    </main>
  );
}

/** A place made of what the outing's own pictures say of where they were taken. */
function FromPictures({ outing, onPlace }: FromProps) {
  const client = useQueryClient();
  const find = useMutation({
    mutationFn: async () => {
      const pictures = outing.sheets.flatMap((sheet) => (sheet.picture ? [sheet.picture] : []));
      for (const picture of pictures) {
        const found = await positionOfPicture(picture).catch(() => null);
        if (found)
          return addPlace({
            ...found,
            name: outing.place || outing.title,
            dark_sky_class: 4,
            magnitude: null,
            horizon: [],
            glow: [],
            learned: null,
          });
      }
      throw new Error("None of its pictures has a location.");
    },
    onSuccess: async (made) => {
      await client.invalidateQueries({ queryKey: ["places"] });
      onPlace(made.id);
    },
  });
  return (
    <>
      <Button className="ml-2" disabled={find.isPending} onClick={() => find.mutate()}>
        Use picture location
      </Button>
      {find.error && <span role="alert"> {find.error.message}</span>}
    </>
  );
}

interface FromProps {
  outing: OutingView;
  onPlace: (placeId: number) => void;
}

/** The day in one sentence, then the sheets by number, each assumption once beneath. */
function Order({ when }: { when: OutingWhen }) {
  const placed = when.sheets.filter((sheet) => sheet.begins);
  const rest = when.sheets.filter((sheet) => !sheet.begins);
  return (
    <>
      {placed[0] && (
        <p className="mt-1 text-lg leading-snug">
          Start at <b className="tabular-nums">{placed[0].begins}</b>, last sheet at{" "}
          <b className="tabular-nums">{placed.at(-1)?.begins}</b>.
        </p>
      )}
      <ol className="mt-2 grid gap-1.5">
        {[...placed, ...rest].map((sheet, index) => (
          <li key={sheet.sheet_id} className="grid grid-cols-[3.2rem_1.6rem_1fr] gap-x-1">
            <b className="tabular-nums">{sheet.begins ?? "not"}</b>
            <span className="text-soft tabular-nums">{sheet.begins ? index + 1 : ""}</span>
            <span>
              <Link href={`/sheets/${sheet.sheet_id}`} className="underline">
                {sheet.title}
              </Link>
              {sheet.spans.length === 0 && (
                <span className="block text-[0.9rem] text-soft">{sheet.words}</span>
              )}
            </span>
          </li>
        ))}
      </ol>
      <ul className="mt-3 border-t border-line pt-2 text-[0.9rem] text-soft">
        {assumptions(placed).map(({ words, numbers }) => (
          <li key={words}>
            {numbers.join(", ")}: {words}
          </li>
        ))}
      </ul>
    </>
  );
}

/** What the times rest on, each once, with the numbers of the sheets it holds for. */
function assumptions(sheets: SheetWhen[]): { words: string; numbers: number[] }[] {
  const found = new Map<string, number[]>();
  sheets.forEach((sheet, index) => {
    found.set(sheet.words, [...(found.get(sheet.words) ?? []), index + 1]);
  });
  return [...found].map(([words, numbers]) => ({ words, numbers }));
}

/** As much room as the order will take, while each sheet is solved for each quarter of an hour. */
function OrderToCome({ outing, when }: { outing: OutingView; when: OutingWhen | undefined }) {
  return (
    <div role="status" className="mt-2 grid gap-2 text-soft">
      {when && (
        <p className="font-semibold text-ink">
          {when.done} of {when.all} sheets done
        </p>
      )}
      {outing.sheets.map((sheet, at) => (
        <p key={sheet.id} className="min-h-[2.9rem] pl-[4.1rem]">
          {sheet.title}
          <span className="block text-[0.9rem]">
            {at === 0 && "Solving every quarter of an hour…"}
          </span>
        </p>
      ))}
    </div>
  );
}

const laneOf = (sheet: SheetWhen, index: number): LaneOfDay => ({
  name: sheet.title,
  number: index + 1,
  spans: sheet.spans.map((span) => ({ from: span.from_unix_s, to: span.to_unix_s })),
  at: sheet.begins_unix_s ?? null,
});

const emptyLane = (sheet: { title: string }): LaneOfDay => ({ name: sheet.title, spans: [] });
