import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { ask, type PlaceView, type SkySeen } from "../../../api/client";
import { Button } from "../../../ui/Button";
import { useSay } from "../../../ui/Notices";
import { outingQuery } from "../../outings/queries";
import { keepPlace } from "../../places/queries";
import { fixed, rounded } from "../../../ui/numbers";

/** What a take of stars tells: how bright the sky was, how far stars trailed, and the focus. */
export function NightSkyPart({ takeId, outingId }: { takeId: number; outingId: number }) {
  const client = useQueryClient();
  const say = useSay();
  const { data: seen, error } = useQuery({
    queryKey: ["sky-of-take", takeId],
    queryFn: () => ask<SkySeen>(`/takes/${takeId}/sky`),
    retry: false,
  });
  const { data: outing } = useQuery(outingQuery(outingId));
  const placeId = outing?.place_id;
  const keep = useMutation({
    mutationFn: async (magnitude: number) => {
      const place = await ask<PlaceView>(`/places/${placeId}`);
      return keepPlace(place.id, { ...place.body, magnitude: rounded(magnitude, 2) });
    },
    onSuccess: async (place) => {
      await client.invalidateQueries({ queryKey: ["places"] });
      say(`${place.body.name} now uses this sky.`);
    },
    onError: (why) => say(why.message),
  });
  if (error) return <p className="text-soft">{error.message}</p>;
  if (!seen) return <p className="text-soft">Reading the sky…</p>;
  const magnitude = seen.magnitude;
  return (
    <section aria-label="Night sky" className="rounded border border-line bg-raised p-3">
      <h3 className="font-semibold">Night sky</h3>
      <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-4 tabular-nums">
        {magnitude !== null && (
          <>
            <dt className="text-soft">Sky</dt>
            <dd>
              {fixed(magnitude, 1)} mag/arcsec², class {seen.dark_sky_class}
            </dd>
          </>
        )}
        <dt className="text-soft">Stars</dt>
        <dd>
          {seen.stars}
          {seen.trail_px !== null && `, trails of ${fixed(seen.trail_px, 1)} px`}
          {seen.corner_trail_px !== null && `, ${fixed(seen.corner_trail_px, 1)} in the corners`}
        </dd>
        {seen.star_width_px !== null && (
          <>
            <dt className="text-soft">Width</dt>
            <dd>{fixed(seen.star_width_px, 1)} px across</dd>
          </>
        )}
      </dl>
      <ul className="mt-1 grid list-disc gap-1 pl-5">
        {seen.told.map((words) => (
          <li key={words}>{words}.</li>
        ))}
        {seen.told.length === 0 && <li>As planned. Nothing to change.</li>}
      </ul>
      {magnitude !== null && typeof placeId === "number" && (
        <Button className="mt-2" disabled={keep.isPending} onClick={() => keep.mutate(magnitude)}>
          Use this sky
        </Button>
      )}
    </section>
  );
}
