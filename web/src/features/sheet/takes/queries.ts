import { queryOptions } from "@tanstack/react-query";

import {
  ask,
  type PresetView,
  type SheetView,
  type Take,
  type TakeChecked,
} from "../../../api/client";

export const shootOnBench = (sheetId: number, how: { auto: boolean; seed: number }) =>
  ask<Take[]>(`/sheets/${sheetId}/bench-shot`, { method: "POST", body: how });

export const changeTake = (
  id: number,
  change: { state?: Take["state"]; note?: string; why?: string; rating?: number },
) => ask<Take>(`/takes/${id}`, { method: "PATCH", body: change });

export const binTake = (id: number) => ask<Take>(`/takes/${id}`, { method: "DELETE" });

export const restoreTake = (id: number) => ask<Take>(`/takes/${id}/restore`, { method: "POST" });

export const presetOfTake = (id: number, name: string) =>
  ask<PresetView>(`/takes/${id}/preset`, { method: "POST", body: { name: name.slice(0, 60) } });

export const meterByTake = (id: number) => ask<SheetView>(`/takes/${id}/meter`, { method: "POST" });

/** A take compared with the plan of its sheet; of a version, as each edit may change it. */
export const takeCheckQuery = (id: number, version: number) =>
  queryOptions({
    queryKey: ["take-check", id, version],
    queryFn: ({ signal }) => ask<TakeChecked>(`/takes/${id}/check`, { signal }),
    staleTime: Infinity,
  });
