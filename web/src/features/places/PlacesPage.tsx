import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useLocation } from "wouter";

import type { PlaceBody } from "../../api/client";
import { Button } from "../../ui/Button";
import { PlaceForm } from "./PlaceForm";
import { addPlace, placesQuery } from "./queries";
import { fixed } from "../../ui/numbers";

const FIRST: PlaceBody = {
  name: "New place",
  latitude_deg: 50,
  longitude_deg: 0,
  time_zone: null,
  dark_sky_class: 4,
  magnitude: null,
  horizon: [],
  glow: [],
  learned: null,
};

/** Places where pictures are taken: their light and their nights follow from here. */
export function PlacesPage() {
  const client = useQueryClient();
  const [, go] = useLocation();
  const { data: places, error } = useQuery(placesQuery);
  const [draft, setDraft] = useState<PlaceBody | null>(null);
  const add = useMutation({
    mutationFn: addPlace,
    onSuccess: async (made) => {
      await client.invalidateQueries({ queryKey: ["places"] });
      go(`/places/${made.id}`);
    },
  });
  return (
    <main className="mx-auto max-w-[80rem] px-4 pb-24 md:px-6">
      <div className="flex flex-wrap items-center gap-3 py-5">
        <h1 className="mr-auto text-2xl font-semibold">Places</h1>
        {!draft && (
          <Button look="main" onClick={() => setDraft(FIRST)}>
            New place
          </Button>
        )}
      </div>
      {(error ?? add.error) && <p role="alert">{(error ?? add.error)?.message}</p>}
      {draft && (
        <section aria-label="New place" className="mb-6 rounded border border-line bg-panel p-4">
          <PlaceForm body={draft} onChange={setDraft} />
          <div className="mt-4 flex gap-2">
            <Button look="main" disabled={add.isPending} onClick={() => add.mutate(draft)}>
              Save place
            </Button>
            <Button look="quiet" onClick={() => setDraft(null)}>
              Cancel
            </Button>
          </div>
        </section>
      )}
      {places?.length === 0 && !draft && (
        <p className="rounded border border-dashed border-strong p-6 text-soft">
          Add the place where you photograph. Oxlen shows its daylight, its dark nights, and when
          each sheet works.
        </p>
      )}
      <ul className="grid gap-3 md:grid-cols-2 lg:grid-cols-3">
        {places?.map((place) => (
          <li key={place.id}>
            <Link
              href={`/places/${place.id}`}
              className="block rounded border border-line bg-panel p-4 hover:bg-raised"
            >
              <span className="block text-lg font-semibold">{place.body.name}</span>
              <span className="block text-soft tabular-nums">
                {north(place.body.latitude_deg)}, {east(place.body.longitude_deg)}
              </span>
              <span className="block text-soft">
                {place.time_zone.replace("_", " ")}, sky {fixed(place.magnitude, 1)} mag/arcsec²
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </main>
  );
}

const north = (deg: number) => `${Math.abs(deg)}° ${deg < 0 ? "S" : "N"}`;
const east = (deg: number) => `${Math.abs(deg)}° ${deg < 0 ? "W" : "E"}`;
