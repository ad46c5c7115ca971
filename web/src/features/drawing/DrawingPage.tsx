import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "wouter";

import { ask, type LampDrawing, type LampDrawingPlan } from "../../api/client";
import { Button } from "../../ui/Button";
import { useSay } from "../../ui/Notices";
import { sheetQuery } from "../sheet/queries";
import { DrawingFields } from "./DrawingFields";
import { DrawingLook } from "./DrawingLook";
import { GroundCurve } from "./GroundCurve";
import { Rehearsal } from "./Rehearsal";
import { TakesDrawn } from "./TakesDrawn";

const FIRST: Partial<LampDrawing> = { what: "heart" };

/** A drawing with a lamp: what, how fast, how bright; seen beforehand and rehearsed. */
export function DrawingPage({ id }: { id: number }) {
  const client = useQueryClient();
  const say = useSay();
  const { data: sheet, error: gone } = useQuery(sheetQuery(id));
  const [changed, setChanged] = useState<Partial<LampDrawing>>({});
  const kept = (sheet?.body.drawing ?? {}) as Partial<LampDrawing>;
  const drawing = { ...FIRST, ...kept, ...(kept.what ? {} : FIRST), ...changed };
  const body = { drawing };
  const { data: planned, error } = useQuery({
    queryKey: ["lamp-drawing", id, sheet?.version, body],
    queryFn: () => ask<LampDrawingPlan>(`/sheets/${id}/drawing`, { method: "POST", body }),
    enabled: sheet !== undefined,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const keep = useMutation({
    mutationFn: (rehearsedS: number | null) =>
      ask<LampDrawingPlan>(`/sheets/${id}/drawing`, {
        method: "POST",
        body: { ...body, rehearsed_s: rehearsedS, keep: true },
      }),
    onSuccess: async () => {
      setChanged({});
      await client.invalidateQueries({ queryKey: sheetQuery(id).queryKey });
      say("The sheet uses this drawing now.");
    },
  });
  if (gone) return <p className="p-6">{gone.message}</p>;
  if (!sheet) return <p className="p-6">Opening…</p>;
  const change = (part: Partial<LampDrawing>) => {
    // Fewer frames need fewer colours: each colour would bring a frame of its own.
    const cut = part.parts ? { colours: (drawing.colours ?? ["white"]).slice(0, part.parts) } : {};
    setChanged({ ...changed, ...cut, ...part });
  };
  return (
    <main className="mx-auto max-w-[84rem] px-4 pb-24 md:px-6">
      <Link href={`/sheets/${id}`} className="mt-2 inline-flex min-h-11 items-center underline">
        Back to “{sheet.body.title}”
      </Link>
      <h1 className="py-3 text-2xl font-semibold">Lamp drawing</h1>
      {(error ?? keep.error) && <p role="alert">{(error ?? keep.error)?.message}</p>}
      <div className="grid gap-5 lg:grid-cols-[minmax(0,1fr)_24rem]">
        <div className="grid content-start gap-4">
          <DrawingLook id={id} body={body} planned={planned ?? null} />
          {planned && <GroundCurve planned={planned} />}
        </div>
        <div className="grid content-start gap-4">
          {planned && <Answer planned={planned} />}
          <DrawingFields
            drawing={planned?.drawing ?? (drawing as LampDrawing)}
            shapes={planned?.shapes ?? []}
            colours={planned?.colours ?? []}
            onChange={change}
          />
          <Button look="main" disabled={keep.isPending} onClick={() => keep.mutate(null)}>
            Use this drawing
          </Button>
          {planned && <Rehearsal planned={planned} onMeasured={(s) => keep.mutate(s)} />}
          {planned && planned.passes.length > 1 && (
            <p>
              Its {planned.passes.length} frames become one picture under{" "}
              <Link href={`/takes/stacks?sheet=${id}`} className="underline">
                Stacking
              </Link>{" "}
              with the rule Lighten.
            </p>
          )}
          <TakesDrawn id={id} />
        </div>
      </div>
    </main>
  );
}

/** The slip of it, and what to change first. */
function Answer({ planned }: { planned: LampDrawingPlan }) {
  return (
    <section aria-label="Result" className="rounded border border-line bg-panel p-4">
      <p className="text-xl font-semibold tabular-nums">{planned.exposure}</p>
      <dl className="mt-2 grid grid-cols-[auto_1fr] gap-x-4 gap-y-0.5 text-[0.95rem] tabular-nums">
        <dt className="text-soft">Time</dt>
        <dd>{planned.time}</dd>
        <dt className="text-soft">Path</dt>
        <dd>{planned.path}</dd>
        <dt className="text-soft">Background</dt>
        <dd>{planned.level}</dd>
        <dt className="text-soft">Line</dt>
        <dd>{planned.trail}</dd>
        <dt className="text-soft">Room light</dt>
        <dd>{planned.room}</dd>
      </dl>
      <ol className="mt-3 grid list-decimal gap-1 border-t border-line pt-2 pl-5">
        {planned.advice.map((words) => (
          <li key={words}>{words}.</li>
        ))}
      </ol>
    </section>
  );
}
