import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { ask, type FlowMeasured, type Take } from "../../api/client";
import { Button } from "../../ui/Button";
import { NumberField, Select } from "../../ui/Field";
import { Preview } from "../../ui/Preview";
import { sheetQuery, takesQuery } from "../sheet/queries";

const RADIUS = 0.12;

/** Speed and ripples of the water measured from two takes of the sheet, and put to use. */
export function WaterPart({ id }: { id: number }) {
  const { data: takes = [] } = useQuery(takesQuery(id));
  return (
    <details className="my-4 rounded border border-line bg-panel px-4">
      <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">Measure the flow</summary>
      {takes.length < 2 ? (
        <p className="pb-3 text-soft">
          Two frames from one tripod position, about 0.5 s apart, show how fast and long the ripples
          are. Add them to the sheet’s takes first.
        </p>
      ) : (
        <Measuring id={id} takes={takes} />
      )}
    </details>
  );
}

function Measuring({ id, takes }: { id: number; takes: Take[] }) {
  const client = useQueryClient();
  const last = takes.slice(-2).map((take) => String(take.id));
  const [first, setFirst] = useState(last[0] ?? "");
  const [second, setSecond] = useState(last[1] ?? "");
  const [at, setAt] = useState({ x: 0.5, y: 0.7 });
  const [distance, setDistance] = useState<number | null>(null);
  const [apart, setApart] = useState<number | null>(null);
  const measure = useMutation({
    mutationFn: (keep: boolean) =>
      ask<FlowMeasured>(`/sheets/${id}/flow`, {
        method: "POST",
        body: {
          takes: [Number(first), Number(second)],
          ...at,
          r: RADIUS,
          distance_m: distance,
          apart_s: apart,
          keep,
        },
      }),
    onSuccess: async (_, keep) => {
      if (keep) await client.invalidateQueries({ queryKey: sheetQuery(id).queryKey });
    },
  });
  const options = takes.map((take, place) => ({
    value: String(take.id),
    text: `Take ${place + 1}: ${take.label}`,
  }));
  const shown = takes.find((take) => String(take.id) === first);
  return (
    <div className="grid gap-4 pb-4 md:grid-cols-[minmax(0,1fr)_20rem]">
      {shown && <Place picture={shown.picture} at={at} onPlace={setAt} />}
      <div className="grid content-start gap-3">
        <Select label="First take" value={first} options={options} onChange={setFirst} />
        <Select label="Second take" value={second} options={options} onChange={setSecond} />
        <NumberField
          label="Distance to water"
          unit="m"
          value={distance}
          low={0.1}
          high={100000}
          onCommit={setDistance}
        />
        <NumberField
          label="Time between them"
          unit="s"
          value={apart}
          low={0.01}
          high={60}
          placeholder="from the files"
          onCommit={setApart}
        />
        <Button
          look="main"
          disabled={distance === null || first === second || measure.isPending}
          onClick={() => measure.mutate(false)}
        >
          {measure.isPending ? "Measuring…" : "Measure"}
        </Button>
        {measure.error && <p role="alert">{measure.error.message}</p>}
        {measure.data && (
          <div role="status" className="grid gap-2">
            <p className="text-lg font-semibold tabular-nums">{measure.data.words}</p>
            {measure.variables ? (
              <p>The sheet uses it now.</p>
            ) : (
              <Button onClick={() => measure.mutate(true)}>Use this</Button>
            )}
          </div>
        )}
      </div>
    </div>
  );
}

interface PlaceProps {
  picture: string;
  at: { x: number; y: number };
  onPlace: (at: { x: number; y: number }) => void;
}

const STEP = 0.02;
const STEPS: Partial<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-STEP, 0],
  ArrowRight: [STEP, 0],
  ArrowUp: [0, -STEP],
  ArrowDown: [0, STEP],
};

const share = (value: number) => Math.min(1, Math.max(0, value));

/** The picture, and the place on it where the water is looked at. */
function Place({ picture, at, onPlace }: PlaceProps) {
  return (
    <div className="surround rounded p-2">
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions */}
      <div
        role="application"
        tabIndex={0}
        aria-label="First take. Arrow keys move the place where the water is."
        className="relative mx-auto w-fit cursor-crosshair"
        onKeyDown={(event) => {
          const step = STEPS[event.key];
          if (!step) return;
          event.preventDefault();
          onPlace({ x: share(at.x + step[0]), y: share(at.y + step[1]) });
        }}
        onClick={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          onPlace({
            x: (event.clientX - box.left) / box.width,
            y: (event.clientY - box.top) / box.height,
          });
        }}
      >
        <Preview picture={picture} alt="First take" className="max-h-80 object-contain" />
        <span
          aria-hidden
          className="pointer-events-none absolute aspect-square -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-white outline outline-black"
          style={{ left: `${100 * at.x}%`, top: `${100 * at.y}%`, height: `${200 * RADIUS}%` }}
        />
      </div>
      <p className="pt-1 text-center text-[0.9rem] text-white">Click on the water</p>
    </div>
  );
}
