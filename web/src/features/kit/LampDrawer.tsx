import { useQuery } from "@tanstack/react-query";

import type { KitLamp } from "../../api/client";
import { lampsQuery } from "../sheet/queries";
import { KitDrawer } from "./KitDrawer";
import { dropItem, keepLamp } from "./queries";
import { useKept } from "./useKept";

/** The lamps of the kit: colour, how true their colours are, how far they dim, their pulsing. */
export function LampDrawer() {
  const { data: lamps = [] } = useQuery(lampsQuery);
  const done = useKept(lampsQuery.queryKey);
  return (
    <KitDrawer
      title="Lamps"
      add="Add a lamp"
      items={lamps.map(({ id, lamp }) => ({ id, name: lamp.name, facts: facts(lamp) }))}
      asked={[
        { label: "Colour", unit: "K", low: 1000, high: 25000, placeholder: "e.g. 5000" },
        { label: "CRI", low: 0, high: 100, placeholder: "if known", optional: true },
        {
          label: "Pulses",
          unit: "Hz",
          low: 1,
          high: 100000,
          placeholder: "if any",
          optional: true,
        },
      ]}
      onAdd={(id, name, [cct_k, cri, pulse_hz]) =>
        cct_k != null &&
        done(
          keepLamp(id, { name, cct_k, cri: cri ?? null, pulse_hz: pulse_hz ?? null, dims_to: 1 }),
        )
      }
      onDrop={(id) => done(dropItem("lamps", id))}
    />
  );
}

function facts(lamp: KitLamp["lamp"]): string {
  const found = [`${lamp.cct_k} K`];
  if (lamp.duv != null) found.push(`Duv ${lamp.duv}`);
  if (lamp.cri != null) found.push(`CRI ${lamp.cri}`);
  if (lamp.dims_to < 1) found.push(`dims to ${Math.round(100 * lamp.dims_to)} %`);
  if (lamp.pulse_hz != null) found.push(`pulses at ${lamp.pulse_hz} Hz`);
  if (lamp.lumens != null) found.push(`${lamp.lumens} lm`);
  return found.join(" · ");
}
