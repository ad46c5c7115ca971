import { dayLabel } from "../../ui/numbers";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import type { KitPhone, Measurement, MeasurementKind } from "../../api/client";
import { Button } from "../../ui/Button";
import { Select } from "../../ui/Field";
import { useSay } from "../../ui/Notices";
import { MeasureDialog } from "./MeasureDialog";
import { kindsQuery, measurementsQuery, portraitQuery, truthQuery } from "./queries";

/** What measuring next would sharpen most, every measurement there is, and what was measured. */
export function Measurements({
  phone,
  onPhone,
}: {
  phone: KitPhone;
  onPhone: (id: string) => void;
}) {
  const { profile } = phone;
  const { data: kinds = [] } = useQuery(kindsQuery);
  const { data: found } = useQuery(portraitQuery(profile.id));
  const { data: past = [] } = useQuery(measurementsQuery(profile.id));
  const [lensId, setLensId] = useState(profile.lenses[0]?.id ?? "");
  const [modeId, setModeId] = useState("");
  const [open, setOpen] = useState<MeasurementKind | null>(null);
  const say = useSay();
  const client = useQueryClient();
  const lens = profile.lenses.find((lens) => lens.id === lensId) ?? profile.lenses[0];
  const mode = lens?.modes.find((mode) => mode.id === modeId) ?? lens?.modes[0];
  const worth = new Map(found?.measure.map((measurement) => [measurement.kind, measurement]));
  const order = (kind: MeasurementKind) => -(worth.get(kind.id)?.moves_stops ?? 0);
  const sorted = [...kinds].sort((a, b) => order(a) - order(b));
  const first = sorted.find((kind) => worth.has(kind.id));
  const underWay = new Set(
    past
      .filter((measurement) => measurement.state === "open")
      .map((measurement) => measurement.kind),
  );
  const ended = past.filter((measurement) => measurement.state !== "open");
  return (
    <section aria-label="Measurements" className="mt-5">
      <div className="mb-2 flex flex-wrap items-end gap-3">
        <h3 className="mr-auto text-lg font-semibold">Measure</h3>
        {profile.lenses.length > 1 && (
          <div className="w-44">
            <Select
              label="Lens"
              value={lens?.id ?? ""}
              options={profile.lenses.map((lens) => ({ value: lens.id, text: lens.name }))}
              onChange={setLensId}
            />
          </div>
        )}
        {lens && lens.modes.length > 1 && (
          <div className="w-60">
            <Select
              label="Pixels"
              value={mode?.id ?? ""}
              options={lens.modes.map((mode) => ({ value: mode.id, text: mode.name }))}
              onChange={setModeId}
            />
          </div>
        )}
      </div>
      {first && (
        <div className="mb-3 flex flex-wrap items-center gap-x-6 gap-y-2 rounded border-2 border-accent bg-raised px-4 py-3">
          <div className="min-w-0 flex-1 leading-snug">
            <p className="text-[0.88rem] text-soft">Would help most</p>
            <p className="text-lg font-semibold">
              {first.name}, {first.minutes} min
            </p>
            <p>
              {first.why} It {worth.get(first.id)?.words}.
            </p>
          </div>
          <Button look="main" className="min-h-12 px-6" onClick={() => setOpen(first)}>
            {underWay.has(first.id) ? "Continue" : "Measure"}
          </Button>
        </div>
      )}
      <ul className="divide-y divide-line border-y border-line">
        {sorted
          .filter((kind) => kind !== first)
          .map((kind) => (
            <li
              key={kind.id}
              className="grid min-h-11 grid-cols-[11rem_3.5rem_minmax(0,1fr)_auto] items-baseline gap-x-3 py-1 leading-tight max-md:grid-cols-[minmax(0,1fr)_auto]"
            >
              <b>{kind.name}</b>
              <span className="text-soft">{kind.minutes} min</span>
              <span className="text-[0.92rem] text-soft max-md:order-last max-md:col-span-2">
                {kind.why}
                {worth.has(kind.id) && <b> It {worth.get(kind.id)?.words}.</b>}
              </span>
              <Button
                look="quiet"
                className="self-center"
                aria-label={`${underWay.has(kind.id) ? "Continue" : "Measure"} ${kind.name}`}
                onClick={() => setOpen(kind)}
              >
                {underWay.has(kind.id) ? "Continue" : "Measure"}
              </Button>
            </li>
          ))}
      </ul>
      {ended.length > 0 && <History ended={ended} kinds={kinds} />}
      {open && lens && mode && (
        <MeasureDialog
          {...{ phone, lens, mode, kind: open }}
          onClose={() => {
            setOpen(null);
            void client.invalidateQueries({ queryKey: measurementsQuery(profile.id).queryKey });
          }}
          onEnded={(measurement) => {
            setOpen(null);
            say(measurement.state === "kept" ? "Saved. New slips use it." : "The old value stays.");
            onPhone(measurement.phone);
          }}
        />
      )}
    </section>
  );
}

/** What a practice phone's figures truly are, shown once it was measured. */
function Truth({ id }: { id: number }) {
  const { data } = useQuery(truthQuery(id));
  if (!data?.words.length) return null;
  return <span className="block font-semibold">True value: {data.words.join(", ")}.</span>;
}

function History({ ended, kinds }: { ended: Measurement[]; kinds: MeasurementKind[] }) {
  return (
    <details className="mt-3">
      <summary className="min-h-11 cursor-pointer py-2 font-semibold">
        Measured so far ({ended.length})
      </summary>
      <ul className="grid gap-2">
        {ended.map((measurement) => (
          <li key={measurement.id} className="border-t border-line pt-2">
            <b>{kinds.find((kind) => kind.id === measurement.kind)?.name ?? measurement.kind}</b>{" "}
            <span className="text-soft">
              {measurement.ended_at && dayLabel(measurement.ended_at)} · {measurement.lens} ·{" "}
              {measurement.state === "kept" ? "used" : "not used"}
            </span>
            <span className="block">{measurement.words ?? "No result."}</span>
            {measurement.phone.startsWith("mystery-") && <Truth id={measurement.id} />}
            {measurement.figures.map((figure) => (
              <span key={figure.path} className="block text-[0.92rem] text-soft">
                {figure.name}: {figure.now ?? "none"} before, {figure.found} {figure.plus_minus}
              </span>
            ))}
          </li>
        ))}
      </ul>
    </details>
  );
}
