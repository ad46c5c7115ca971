import { infiniteQueryOptions, queryOptions } from "@tanstack/react-query";

import {
  ask,
  type Bin,
  type OutingChange,
  type OutingFields,
  type OutingView,
} from "../../api/client";

const PAGE = 8;

/** Outings a page at a time, newest first; with words, those that have them. */
export const outingsQuery = (words: string) =>
  infiniteQueryOptions({
    queryKey: ["outings", "list", words],
    queryFn: ({ signal, pageParam }) => {
      const page = new URLSearchParams({ most: String(PAGE), words });
      if (pageParam !== null) page.set("before", String(pageParam));
      return ask<OutingView[]>(`/outings?${page}`, { signal });
    },
    initialPageParam: null as number | null,
    getNextPageParam: (page) => (page.length < PAGE ? null : (page[page.length - 1]?.id ?? null)),
    staleTime: 0,
    placeholderData: (before) => before,
  });

/** One outing with all its sheets. */
export const outingQuery = (id: number) =>
  queryOptions({
    queryKey: ["outings", id],
    queryFn: ({ signal }) => ask<OutingView>(`/outings/${id}`, { signal }),
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
