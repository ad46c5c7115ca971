import { queryOptions } from "@tanstack/react-query";

import { ask, type SheetView, type Situation } from "../../api/client";

export const situationsQuery = (outing: string | null) =>
  queryOptions({
    queryKey: ["situations", outing],
    queryFn: ({ signal }) =>
      ask<Situation[]>(`/situations${outing ? `?outing_id=${outing}` : ""}`, { signal }),
    staleTime: Infinity,
  });

export interface Begun {
  situation: string;
  answers: Record<string, string>;
  /** Numbers that were typed, by id, in their units. */
  numbers: Record<string, number>;
  phone: string;
  mains_hz: 50 | 60;
}

/** Start a sheet from a situation, in an outing or in the newest there is. */
export const beginSheet = (outing: string | null, begun: Begun) =>
  ask<SheetView>(outing ? `/outings/${outing}/situations` : "/situations", {
    method: "POST",
    body: begun,
  });
