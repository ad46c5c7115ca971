import { keepPreviousData, queryOptions } from "@tanstack/react-query";

import { ask, type DayView, type NightPlan, type Nights, type OutingWhen } from "../../api/client";

export type Asked = Record<string, string | number | boolean | null | undefined>;

/** What is asked, as the end of an address; what is open is left out. */
export function asAddress(asked: Asked): string {
  const named = Object.entries(asked).filter(([, value]) => value !== null && value !== undefined);
  return new URLSearchParams(named.map(([name, value]) => [name, String(value)])).toString();
}

export const dayQuery = (placeId: number, asked: Asked) =>
  queryOptions({
    queryKey: ["day", placeId, asked],
    queryFn: () => ask<DayView>(`/places/${placeId}/day?${asAddress(asked)}`),
    placeholderData: keepPreviousData,
  });

export const nightsQuery = (placeId: number, asked: Asked) =>
  queryOptions({
    queryKey: ["nights", placeId, asked],
    queryFn: () => ask<Nights>(`/places/${placeId}/nights?${asAddress(asked)}`),
    placeholderData: keepPreviousData,
  });

export const nightQuery = (placeId: number, asked: Asked) =>
  queryOptions({
    queryKey: ["night", placeId, asked],
    queryFn: () => ask<NightPlan>(`/places/${placeId}/night?${asAddress(asked)}`),
    placeholderData: keepPreviousData,
  });

const AGAIN_MS = 700;

export const whenQuery = (outingId: number, asked: Asked) =>
  queryOptions({
    queryKey: ["when", outingId, asked],
    queryFn: () => ask<OutingWhen>(`/outings/${outingId}/when?${asAddress(asked)}`),
    placeholderData: keepPreviousData,
    retry: false,
    // With hundreds of sheets it takes a while: asked again until it is done.
    refetchInterval: ({ state }) => (state.data?.state === "working" ? AGAIN_MS : false),
  });
