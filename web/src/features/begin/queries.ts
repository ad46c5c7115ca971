import { queryOptions } from "@tanstack/react-query";

import { ask, type Situation } from "../../api/client";

export const situationsQuery = (outing: string | null) =>
  queryOptions({
    queryKey: ["situations", outing],
    queryFn: ({ signal }) =>
      ask<Situation[]>(`/situations${outing ? `?outing_id=${outing}` : ""}`, { signal }),
    staleTime: Infinity,
  });
