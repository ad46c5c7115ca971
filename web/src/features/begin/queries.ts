import { queryOptions } from "@tanstack/react-query";

import { ask, type SheetView, type Situation } from "../../api/client";

export const situationsQuery = queryOptions({
  queryKey: ["situations"],
  queryFn: ({ signal }) => ask<Situation[]>("/situations", { signal }),
  staleTime: Infinity,
});

export interface Begun {
  situation: string;
  answers: Record<string, string>;
  phone: string;
}

/** Start a sheet from a situation, in an outing or in the newest there is. */
export const beginSheet = (outing: string | null, begun: Begun) =>
  ask<SheetView>(outing ? `/outings/${outing}/situations` : "/situations", {
    method: "POST",
    body: begun,
  });
