import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useLocation } from "wouter";

import { ask, type LongTime, type SheetView, type TimeWay } from "../../api/client";
import { Button } from "../../ui/Button";
import { useSay } from "../../ui/Notices";
import { sheetQuery } from "../sheet/queries";
import { TimeInstrument } from "./TimeInstrument";
import { WaterPart } from "./WaterPart";
import { fileSize, fixed } from "../../ui/numbers";
import { Explained } from "../help/Explained";

/** Routes that are shown as cards. */
const BEST = 3;

/** The long time of a sheet: one axis of seconds, and the ways to it side by side. */
export function TimePage({ id }: { id: number }) {
  const [, go] = useLocation();
  const client = useQueryClient();
  const say = useSay();
  const { data: sheet } = useQuery(sheetQuery(id));
  const { data: time, error } = useQuery({
    queryKey: ["long-time", id, sheet?.version],
    queryFn: () => ask<LongTime>(`/sheets/${id}/long-time`),
    retry: false,
  });
  const [pointed, setPointed] = useState<number | null>(null);
  const take = useMutation({
    mutationFn: (way: TimeWay) =>
      ask<SheetView>(`/sheets/${id}/long-time/${way.id}`, { method: "POST" }),
    onSuccess: async (view, way) => {
      client.setQueryData(sheetQuery(id).queryKey, view);
      await client.invalidateQueries({ queryKey: ["outings"] });
      say(`The sheet uses it now: ${way.name}.`);
      go(`/sheets/${id}`);
    },
  });
  return (
    <main className="mx-auto max-w-[84rem] px-4 pb-24 md:px-6">
      <Link href={`/sheets/${id}`} className="mt-2 inline-flex min-h-11 items-center underline">
        Back to {sheet ? `“${sheet.body.title}”` : "the sheet"}
      </Link>
      <h1 className="pt-3 text-2xl font-semibold">Long exposure</h1>
      {error && <p role="alert">{error.message}</p>}
      {!error && !time && <p>Working out every route…</p>}
      {time && time.ways.length === 0 && (
        <p className="mt-3 rounded border border-dashed border-strong p-6 text-soft">
          This sheet has no motion blur yet. Add water, a boat or a crowd under{" "}
          <Link href={`/sheets/${id}`}>Limits</Link>to see every route to its time.
        </p>
      )}
      {time && time.ways.length > 0 && (
        <>
          <p className="mb-3 text-lg">
            {time.look}: <b className="tabular-nums">{time.wanted}</b>
          </p>
          <BestWays
            ways={time.ways.filter((way) => way.reaches).slice(0, BEST)}
            isBusy={take.isPending}
            onPoint={setPointed}
            onTake={(way) => take.mutate(way)}
          />
          {take.error && <p role="alert">{take.error.message}</p>}
          <section aria-label="Time axis" className="my-4 rounded border border-line bg-panel p-3">
            <TimeInstrument
              time={time}
              marked={time.ways.filter((way) => way.reaches).slice(0, BEST)}
              pointedS={pointed}
            />
            <details className="text-[0.92rem]">
              <summary className="min-h-8 cursor-pointer py-1 max-[899px]:min-h-11">
                What reaches which time
              </summary>
              <ul>
                {time.lanes.map((lane) => (
                  <li key={lane.name}>
                    {lane.name}: {lane.words}
                  </li>
                ))}
              </ul>
            </details>
          </section>
          <Ways
            ways={[
              ...time.ways.filter((way) => way.reaches).slice(BEST),
              ...time.ways.filter((way) => !way.reaches),
            ]}
            isBusy={take.isPending}
            onPoint={setPointed}
            onTake={(way) => take.mutate(way)}
          />
          <WaterPart id={id} />
        </>
      )}
    </main>
  );
}

interface WaysProps {
  ways: TimeWay[];
  isBusy: boolean;
  onPoint: (timeS: number | null) => void;
  onTake: (way: TimeWay) => void;
}

/** The best routes, each as what to dial: the answer, before anything is explained. */
function BestWays({ ways, isBusy, onPoint, onTake }: WaysProps) {
  return (
    <ol aria-label="Best routes" className="grid gap-3 md:grid-cols-3">
      {ways.map((way, index) => (
        <li
          key={way.id}
          onPointerEnter={() => onPoint(way.elapsed_s)}
          onPointerLeave={() => onPoint(null)}
          className={`grid content-start gap-1 rounded border-2 bg-raised p-4 ${index === 0 ? "border-accent" : "border-line"}`}
        >
          <h2 className="font-semibold">
            {index + 1}. {way.name}
          </h2>
          <p className="text-[1.9rem] leading-tight font-bold tabular-nums">{way.exposure}</p>
          <p className="tabular-nums">{figures(way)}</p>
          <p className="leading-snug">{way.shows}</p>
          <p className="leading-snug text-soft">
            <Explained>{way.carry}</Explained>
          </p>
          <Button
            look={index === 0 ? "main" : "plain"}
            className="mt-2 min-h-11"
            aria-label={`Use this: ${way.name}`}
            disabled={isBusy}
            onClick={() => onTake(way)}
          >
            Use this
          </Button>
        </li>
      ))}
    </ol>
  );
}

/** What a route costs, in figures. */
function figures(way: TimeWay): string {
  return [
    way.iso !== null && `ISO ${way.iso}`,
    way.in_all !== way.exposure && `${way.in_all} in total`,
    way.snr !== null && `SNR ${Math.round(way.snr)}`,
    way.megabytes !== null && fileSize(way.megabytes),
    way.battery_percent !== null && `${fixed(way.battery_percent, 1)} % battery`,
  ]
    .filter(Boolean)
    .join(", ");
}

function Ways({ ways, isBusy, onPoint, onTake }: WaysProps) {
  return (
    <ul aria-label="Routes to this time" className="grid gap-2">
      {ways.map((way) => (
        <li
          key={way.id}
          onPointerEnter={() => onPoint(way.elapsed_s)}
          onPointerLeave={() => onPoint(null)}
          className={`grid items-center gap-x-5 gap-y-1 rounded border px-4 py-3 md:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)_minmax(0,1.2fr)_9.5rem] ${way.reaches ? "border-line bg-panel" : "border-dashed border-strong"}`}
        >
          <div>
            <b className={way.reaches ? "text-lg" : ""}>{way.name}</b>
            <p className="text-[0.93rem] text-soft">
              <Explained>{way.carry}</Explained>
            </p>
          </div>
          <div className="tabular-nums">
            <p className="font-semibold">{way.exposure}</p>
            <p className="text-[0.93rem] text-soft">{figures(way)}</p>
          </div>
          <p className="text-[0.95rem]">
            {way.reaches ? way.shows : <span>Not possible: {way.why_not}.</span>}
          </p>
          {way.reaches ? (
            <Button look="main" disabled={isBusy} onClick={() => onTake(way)}>
              Use this
            </Button>
          ) : (
            <span className="text-center text-soft">too short</span>
          )}
        </li>
      ))}
    </ul>
  );
}
