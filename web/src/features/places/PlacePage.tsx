import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useLocation, useSearchParams } from "wouter";

import type { PlaceBody, PlaceView } from "../../api/client";
import { Button } from "../../ui/Button";
import { useSay } from "../../ui/Notices";
import { Segmented } from "../../ui/Segmented";
import { DayBar } from "../lightPlan/DayBar";
import { DayPart } from "../lightPlan/DayPart";
import { NightPart } from "../lightPlan/NightPart";
import { NightsPart, type Wanted } from "../lightPlan/NightsPart";
import { PlaceForm } from "./PlaceForm";
import { keepPlace, placeQuery, removePlace } from "./queries";

const PARTS = [
  { value: "day", text: "Daylight" },
  { value: "night", text: "Nights" },
  { value: "place", text: "Place" },
] as const;

/** One place: the light of its days, its nights, and what is known of it. */
export function PlacePage({ id }: { id: number }) {
  const { data: place, error } = useQuery(placeQuery(id));
  const [address, setAddress] = useSearchParams();
  const part = PARTS.find((part) => part.value === address.get("show"))?.value ?? "day";
  const date = address.get("date") ?? place?.now.slice(0, 10) ?? "";
  const put = (named: Record<string, string>) =>
    setAddress({ ...Object.fromEntries(address), ...named }, { replace: true });
  if (error) return <p className="p-6">{error.message}</p>;
  if (!place) return <p className="p-6">Opening…</p>;
  return (
    <main className="mx-auto max-w-[84rem] px-4 pb-24 md:px-6">
      <Link href="/places" className="mt-2 inline-flex min-h-11 items-center underline">
        All places
      </Link>
      <div className="flex flex-wrap items-center gap-4 py-3">
        <h1 className="mr-auto text-2xl font-semibold">{place.body.name}</h1>
        <div className="w-96 max-w-full">
          <Segmented label="View" value={part} options={PARTS} onChange={(show) => put({ show })} />
        </div>
      </div>
      {part === "day" && <DayPart {...{ place, date }} onDate={(day) => put({ date: day })} />}
      {part === "night" && <Night {...{ place, date }} onDate={(day) => put({ date: day })} />}
      {part === "place" && <Edit place={place} />}
    </main>
  );
}

interface NightProps {
  place: PlaceView;
  date: string;
  onDate: (date: string) => void;
}

/** The chosen night beside the best there are. */
function Night({ place, date, onDate }: NightProps) {
  const [wanted, setWanted] = useState<Wanted>({ moon: "down", centre: true, above_deg: 10 });
  return (
    <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_23rem]">
      <div className="grid content-start gap-3">
        <DayBar {...{ date, onDate }} />
        <NightPart {...{ place, date, wanted }} />
      </div>
      <NightsPart {...{ place, date, onDate, wanted }} onWanted={setWanted} />
    </div>
  );
}

/** What is known of the place, changed and kept. */
function Edit({ place }: { place: PlaceView }) {
  const client = useQueryClient();
  const say = useSay();
  const [, go] = useLocation();
  const [body, setBody] = useState<PlaceBody>(place.body);
  const keep = useMutation({
    mutationFn: () => keepPlace(place.id, body),
    onSuccess: async () => {
      await client.invalidateQueries();
      say("Place saved.");
    },
    onError: (error) => say(error.message),
  });
  const remove = useMutation({
    mutationFn: () => removePlace(place.id),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: ["places"] });
      go("/places");
    },
  });
  return (
    <section aria-label="Place" className="rounded border border-line bg-panel p-4">
      <PlaceForm body={body} onChange={setBody} />
      <div className="mt-4 flex gap-2">
        <Button look="main" disabled={keep.isPending} onClick={() => keep.mutate()}>
          Save
        </Button>
        <Button look="quiet" disabled={remove.isPending} onClick={() => remove.mutate()}>
          Delete place
        </Button>
      </div>
      <p className="mt-2 text-soft">
        {place.outings === 0
          ? "No outing uses it yet."
          : `${place.outings} outing${place.outings === 1 ? " uses" : "s use"} it. Without it they keep its name, position and clock.`}
      </p>
    </section>
  );
}
