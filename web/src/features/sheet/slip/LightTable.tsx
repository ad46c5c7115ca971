import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { ChangedLight } from "../../../api/client";
import { useKeptSince } from "../../../offline/offline";
import { meQuery } from "../../network/queries";
import { lightTableQuery } from "../queries";

/** What to dial once the light has changed; at hand on a phone without the network too. */
export function LightTable({ id, version }: { id: number; version: number }) {
  // Where nothing answers it is all there is to use.
  const isAway = useKeptSince() !== null;
  const [open, setOpen] = useState(isAway);
  // On a phone it is fetched beforehand: where it is wanted, nothing may answer.
  const isPhone = useQuery(meQuery).data?.is_phone ?? false;
  const { data, error } = useQuery({
    ...lightTableQuery(id, version),
    enabled: open || isPhone,
  });
  return (
    <details
      className="mt-2 border-t border-line"
      open={open}
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="min-h-11 cursor-pointer py-2 font-semibold">If the light changes</summary>
      {isAway && (
        <p className="pb-1 text-[0.92rem]">
          Offline. Compare your phone's meter with the reading and dial that row.
        </p>
      )}
      {error && <p>{error.message}</p>}
      {data && (
        <table className="w-full text-left text-[0.95rem]">
          <thead>
            <tr className="text-soft">
              <th className="font-normal">Light</th>
              <th className="font-normal">Dial</th>
            </tr>
          </thead>
          <tbody>
            {data.map((row) => (
              <Row key={row.shift_stops} row={row} />
            ))}
          </tbody>
        </table>
      )}
    </details>
  );
}

function Row({ row }: { row: ChangedLight }) {
  const now = row.shift_stops === 0;
  return (
    <tr
      className={`border-t border-line align-baseline ${now ? "bg-accent-soft font-semibold" : ""}`}
    >
      <th className="py-1.5 pr-3 font-normal whitespace-nowrap">
        {words(row.shift_stops)}
        <span className="block text-[0.86rem] font-normal text-soft">{row.meter}</span>
      </th>
      <td>
        <span className={row.iso === null ? "" : "font-semibold"}>{row.label}</span>
        {!now && row.costs && (
          <span className="block text-[0.86rem] font-normal text-soft">{row.costs}</span>
        )}
        {row.misses && !row.misses.startsWith("on the") && (
          <span className="block text-[0.86rem] font-normal text-soft">{row.misses}</span>
        )}
      </td>
    </tr>
  );
}

/** Thirds and halves, by sixths of a stop. */
const PARTS: Record<number, string> = { 2: "⅓", 3: "½", 4: "⅔" };

function words(shift: number): string {
  if (shift === 0) return "as read";
  const size = Math.abs(shift);
  const whole = Math.floor(size + 0.01);
  const part = PARTS[Math.round(6 * (size - whole))] ?? "";
  const count = `${whole > 0 || part === "" ? whole : ""}${part}`;
  return `${count} ${size <= 1 ? "stop" : "stops"} ${shift > 0 ? "more" : "less"}`;
}
