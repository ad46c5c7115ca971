import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { sensing } from "../../../phone/chosen";
import type { Place } from "../../../phone/sensing";
import { Button } from "../../../ui/Button";
import { changeOuting } from "../../outings/queries";
import { fixed } from "../../../ui/numbers";

/** Where the phone is, asked for once, and kept for the outing if that is wanted. */
export function PlaceHere({ outingId }: { outingId: number }) {
  const client = useQueryClient();
  const [place, setPlace] = useState<Place | null>(null);
  const find = useMutation({ mutationFn: () => sensing().place(), onSuccess: setPlace });
  const keep = useMutation({
    mutationFn: ({ latitudeDeg, longitudeDeg }: Place) =>
      changeOuting(outingId, { latitude_deg: latitudeDeg, longitude_deg: longitudeDeg }),
    onSuccess: () => client.invalidateQueries({ queryKey: ["outings"] }),
  });
  const problem = find.error ?? keep.error;
  return (
    <div className="grid gap-2">
      {place && (
        <p>
          <b>{words(place)}</b> ± {Math.ceil(place.plusMinusM)} m
        </p>
      )}
      {problem && <p role="alert">{problem.message}</p>}
      <div className="flex flex-wrap gap-2">
        <Button disabled={find.isPending} onClick={() => find.mutate()}>
          {find.isPending ? "Asking the phone…" : "Where am I?"}
        </Button>
        {place && (
          <Button look="main" disabled={keep.isPending} onClick={() => keep.mutate(place)}>
            {keep.isSuccess ? "Saved for outing" : "Save for outing"}
          </Button>
        )}
      </div>
    </div>
  );
}

function words({ latitudeDeg, longitudeDeg }: Place): string {
  const north = `${fixed(Math.abs(latitudeDeg), 4)}° ${latitudeDeg < 0 ? "S" : "N"}`;
  const east = `${fixed(Math.abs(longitudeDeg), 4)}° ${longitudeDeg < 0 ? "W" : "E"}`;
  return `${north}, ${east}`;
}
