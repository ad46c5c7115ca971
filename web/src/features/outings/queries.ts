import { queryOptions } from "@tanstack/react-query";

import {
  ask,
  type Bin,
  type OutingChange,
  type OutingFields,
  type OutingView,
} from "../../api/client";

export const outingsQuery = queryOptions({
  queryKey: ["outings"],
  queryFn: ({ signal }) => ask<OutingView[]>("/outings", { signal }),
  staleTime: 0,
});

export const binQuery = queryOptions({
  queryKey: ["bin"],
  queryFn: ({ signal }) => ask<Bin>("/bin", { signal }),
  staleTime: 0,
});

export const addOuting = (fields: OutingFields) =>
  ask<OutingView>("/outings", { method: "POST", body: fields });
export const changeOuting = (id: number, change: OutingChange) =>
  ask<OutingView>(`/outings/${id}`, { method: "PATCH", body: change });
export const binOuting = (id: number) => ask<OutingView>(`/outings/${id}`, { method: "DELETE" });
export const restoreOuting = (id: number) =>
  ask<OutingView>(`/outings/${id}/restore`, { method: "POST" });
