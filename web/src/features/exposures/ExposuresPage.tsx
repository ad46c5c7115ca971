import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useLocation } from "wouter";

import { ask, type SharedAsked, type SharedFrame } from "../../api/client";
import { Button } from "../../ui/Button";
import { Segmented } from "../../ui/Segmented";
import { useMadeImage } from "../../api/useMadeImage";
import { sheetQuery, takesQuery } from "../sheet/queries";
import { addTakes, askedOf, beginSet, changeSet } from "../stack/queries";
import { ExposureList } from "./ExposureList";
import { Ghost } from "./Ghost";

type Rule = NonNullable<SharedAsked["rule"]>;
const RULES = [
  { value: "add", text: "Add" },
  { value: "mean", text: "Average" },
  { value: "lighten", text: "Lighten" },
  { value: "darken", text: "Darken" },
] as const;
const MOST = 9;

/** Several exposures in one frame: what each needs, composed over the earlier ones, seen as a sum. */
export function ExposuresPage({ id }: { id: number }) {
  const [, go] = useLocation();
  const client = useQueryClient();
  const { data: sheet, error: gone } = useQuery(sheetQuery(id));
  const { data: takes = [] } = useQuery(takesQuery(id));
  const [rule, setRule] = useState<Rule>("add");
  const [weights, setWeights] = useState([1, 1]);
  const [chosen, setChosen] = useState<(number | null)[]>([]);
  const asked = { rule, weights, takes: weights.map((_, at) => chosen[at] ?? null) };
  const { data: shared, error } = useQuery({
    queryKey: ["exposures", id, sheet?.version, rule, weights],
    queryFn: () => ask<SharedFrame>(`/sheets/${id}/exposures`, { method: "POST", body: asked }),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const sum = useMadeImage(`/sheets/${id}/exposures/picture`, asked);
  const used = asked.takes.filter((take): take is number => take !== null);
  const together = useMutation({
    mutationFn: async () => {
      const set = await beginSet(`${sheet?.body.title ?? "Sheet"}, exposures`.slice(0, 120), id);
      await changeSet(set.id, { ...askedOf(set), combine: rule, align: "none", mixed: true });
      await addTakes(set.id, used, false);
      return set.id;
    },
    onSuccess: (set) => go(`/takes/stacks/${set}`),
  });
  const bench = useMutation({
    mutationFn: () =>
      ask<number[]>(`/sheets/${id}/exposures/bench`, { method: "POST", body: asked }),
    onSuccess: async (shot) => {
      await client.invalidateQueries({ queryKey: takesQuery(id).queryKey });
      setChosen(shot);
    },
  });
  const problem = error ?? together.error ?? bench.error;
  if (gone) return <p className="p-6">{gone.message}</p>;
  const put = (at: number, take: number | null) =>
    setChosen(weights.map((_, place) => (place === at ? take : (chosen[place] ?? null))));
  return (
    <main className="mx-auto max-w-[84rem] px-4 pb-24 md:px-6">
      <Link href={`/sheets/${id}`} className="mt-2 inline-flex min-h-11 items-center underline">
        Back to {sheet ? `“${sheet.body.title}”` : "the sheet"}
      </Link>
      <h1 className="py-3 text-2xl font-semibold">Multiple exposure</h1>
      {problem && <p role="alert">{problem.message}</p>}
      <div className="grid gap-5 lg:grid-cols-[minmax(0,1fr)_26rem]">
        <div className="grid content-start gap-4">
          <figure className="surround grid min-h-60 place-items-center rounded p-2">
            {sum.url ? (
              <img
                src={sum.url}
                alt="Combined exposures"
                className={`max-h-[58dvh] object-contain ${sum.isBusy ? "opacity-80" : ""}`}
              />
            ) : (
              <p className="p-6 text-white">{sum.error ?? "Adding up…"}</p>
            )}
          </figure>
          <Ghost picture={sheet?.body.picture ?? null} takes={takes} chosen={used} />
        </div>
        <section aria-label="Exposures" className="grid content-start gap-3">
          <Segmented label="Combine by" value={rule} options={RULES} onChange={setRule} />
          {shared && <p className="text-soft">{shared.words}.</p>}
          {shared && (
            <ExposureList
              shared={shared}
              weights={weights}
              takes={takes}
              chosen={asked.takes}
              onWeight={(at, weight) =>
                setWeights(weights.map((kept, place) => (place === at ? weight : kept)))
              }
              onTake={put}
            />
          )}
          <div className="flex flex-wrap gap-2">
            <Button disabled={weights.length >= MOST} onClick={() => setWeights([...weights, 1])}>
              Add exposure
            </Button>
            <Button disabled={weights.length <= 2} onClick={() => setWeights(weights.slice(0, -1))}>
              Remove exposure
            </Button>
          </div>
          {sheet?.body.scene && (
            <Button disabled={bench.isPending} onClick={() => bench.mutate()}>
              {bench.isPending ? "Shooting…" : "Shoot on bench"}
            </Button>
          )}
          <Button
            look="main"
            disabled={used.length < 2 || together.isPending}
            onClick={() => together.mutate()}
          >
            Combine takes
          </Button>
          {used.length < 2 && (
            <p className="text-soft">
              Shoot each exposure, add it to the sheet's takes, then choose it here.
            </p>
          )}
        </section>
      </div>
    </main>
  );
}
