import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { ask, type PlaceView } from "../../api/client";
import { Button } from "../../ui/Button";
import { useSay } from "../../ui/Notices";
import { type Cloud, DayBar } from "./DayBar";
import { clockOf } from "./dayAxis";
import { DayStrip } from "./DayStrip";
import { dayQuery } from "./queries";
import { fixed, stops } from "../../ui/numbers";

interface Props {
  place: PlaceView;
  date: string;
  onDate: (date: string) => void;
}

/** The light of a day at a place, and its moments by the clock there. */
export function DayPart({ place, date, onDate }: Props) {
  const [cloud, setCloud] = useState<Cloud>("clear");
  const { data: day, error } = useQuery(dayQuery(place.id, { date, cloud }));
  return (
    <section aria-label="Daylight" className="rounded border border-line bg-panel p-4">
      <DayBar {...{ date, onDate, cloud }} onCloud={setCloud} />
      {error && <p role="alert">{error.message}</p>}
      {day && (
        <>
          {day.hours.told.map((words) => (
            <p key={words} className="mt-3 font-semibold">
              {words}.
            </p>
          ))}
          <div className="mt-3">
            <DayStrip day={day} />
          </div>
          <ol className="mt-4 grid gap-x-8 gap-y-0.5 border-t border-line pt-3 tabular-nums sm:grid-cols-2 lg:grid-cols-3">
            {day.hours.moments.map((moment) => (
              <li key={`${moment.at}${moment.words}`} className="flex gap-3">
                <b className="w-12">{clockOf(moment.at)}</b> {moment.words}
              </li>
            ))}
            <li className="flex gap-3">
              <b className="w-12">Moon</b> {Math.round(100 * day.hours.moon_lit_share)} % lit
            </li>
          </ol>
          <Learned place={place} />
        </>
      )}
    </section>
  );
}

/** What the place's own takes taught of its light, and a button to learn anew. */
function Learned({ place }: { place: PlaceView }) {
  const client = useQueryClient();
  const say = useSay();
  const learn = useMutation({
    mutationFn: () => ask<PlaceView>(`/places/${place.id}/learn`, { method: "POST" }),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: ["places"] });
      await client.invalidateQueries({ queryKey: ["day", place.id] });
    },
    onError: (error) => say(error.message),
  });
  const lesson = place.body.learned;
  const way = lesson && lesson.offset_stops < 0 ? "darker" : "brighter";
  return (
    <p className="mt-3 flex flex-wrap items-center gap-3 text-soft">
      {lesson
        ? `${lesson.readings} of your takes: this place is ${fixed(Math.abs(lesson.offset_stops), 1)} ± ${stops(lesson.plus_minus_stops)} ${way} than open ground. Predictions include it.`
        : "Predictions are for open ground. Your takes here can correct them."}
      <Button disabled={learn.isPending} onClick={() => learn.mutate()}>
        Learn from takes
      </Button>
    </p>
  );
}
