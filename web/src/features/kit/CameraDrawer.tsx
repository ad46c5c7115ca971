import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { ask } from "../../api/client";
import { Button } from "../../ui/Button";
import { dayLabel, fixed } from "../../ui/numbers";
import { camerasQuery } from "../live/queries";

/** What each phone's camera can do from the page, in plain words, and what to do instead. */
export function CameraDrawer() {
  const client = useQueryClient();
  const { data: cameras = [] } = useQuery(camerasQuery);
  const remove = useMutation({
    mutationFn: (key: string) => ask(`/cameras/${key}`, { method: "DELETE" }),
    onSettled: () => client.invalidateQueries({ queryKey: ["cameras"] }),
  });
  if (cameras.length === 0) return null;
  return (
    <section aria-label="Live cameras" className="mt-4 rounded border border-line bg-panel p-4">
      <h2 className="text-lg font-semibold">Live cameras</h2>
      {cameras.map((camera) => (
        <article key={camera.key} className="mt-3 border-t border-line pt-3">
          <div className="flex flex-wrap items-baseline justify-between gap-2">
            <h3 className="font-semibold">{camera.name}</h3>
            <span className="text-soft">Seen {dayLabel(camera.seen_at)}</span>
            <Button
              look="quiet"
              aria-label={`Delete ${camera.name}`}
              onClick={() => remove.mutate(camera.key)}
            >
              Delete
            </Button>
          </div>
          <dl className="mt-1 grid grid-cols-[minmax(0,auto)_minmax(0,1fr)] gap-x-4 gap-y-0.5">
            {camera.abilities.map((ability) => (
              <div key={ability.name} className="contents">
                <dt>{ability.name}</dt>
                <dd>
                  <b>{ability.is_there ? "Yes" : "No"}</b>{" "}
                  {!ability.is_there && <span className="text-soft">{ability.instead}</span>}
                </dd>
              </div>
            ))}
          </dl>
          <p className="mt-1 text-soft">
            {camera.focus_words && `${camera.focus_words} `}
            {camera.curve_plus_minus_stops === null
              ? "Preview curve assumed."
              : `Preview curve measured: ± ${fixed(camera.curve_plus_minus_stops, 2)} stop.`}
          </p>
        </article>
      ))}
    </section>
  );
}
