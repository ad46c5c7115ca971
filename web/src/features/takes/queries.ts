import { infiniteQueryOptions, queryOptions } from "@tanstack/react-query";

import {
  ask,
  type ComparedTake,
  type InboxEntry,
  type LogbookChoices,
  type LogbookCount,
  type LogbookPage,
} from "../../api/client";

export interface Looked {
  words: string;
  order: string;
  outing: string;
  lens: string;
  situation: string;
  state: string;
  rating: string;
  iso_min: string;
  iso_max: string;
  shutter_min_s: string;
  shutter_max_s: string;
  since: string;
  until: string;
}
export const NOTHING_LOOKED: Looked = {
  words: "",
  order: "newest",
  outing: "",
  lens: "",
  situation: "",
  state: "",
  rating: "",
  iso_min: "",
  iso_max: "",
  shutter_min_s: "",
  shutter_max_s: "",
  since: "",
  until: "",
};

/** What is looked for, as the address of the page and the API have it: only what is set. */
export function searchOf(looked: Looked): URLSearchParams {
  const said = Object.entries(looked).filter(
    ([name, value]) => value !== "" && !(name === "order" && value === "newest"),
  );
  return new URLSearchParams(said as [string, string][]);
}

export const lookedIn = (search: string): Looked => ({
  ...NOTHING_LOOKED,
  ...Object.fromEntries(
    [...new URLSearchParams(search)].filter(([name]) => name in NOTHING_LOOKED),
  ),
});

export const logbookPage = (looked: Looked, after: { place: string; id: number } | null) => {
  const search = searchOf(looked);
  if (after) {
    search.set("after", after.place);
    search.set("after_id", String(after.id));
  }
  return ask<LogbookPage>(`/logbook?${search}`);
};

/** Takes that fit what is looked for, page after page. */
export const logbookQuery = (looked: Looked) =>
  infiniteQueryOptions({
    queryKey: ["logbook", "page", looked],
    queryFn: ({ pageParam }) => logbookPage(looked, pageParam),
    initialPageParam: null as { place: string; id: number } | null,
    getNextPageParam: ({ entries }) => {
      const last = entries[entries.length - 1];
      return last ? { place: last.place, id: last.id } : undefined;
    },
  });

export const countQuery = (looked: Looked) =>
  queryOptions({
    queryKey: ["logbook", "count", looked],
    queryFn: () => ask<LogbookCount>(`/logbook/count?${searchOf(looked)}`),
  });

export const choicesQuery = queryOptions({
  queryKey: ["logbook-choices"],
  queryFn: () => ask<LogbookChoices>("/logbook/choices"),
});

export const inboxQuery = queryOptions({
  queryKey: ["inbox"],
  queryFn: () => ask<InboxEntry[]>("/inbox"),
});

export const placeInboxed = (places: [number, number][]) =>
  ask<InboxEntry[]>("/inbox/place", { method: "POST", body: { places } });

export const letGo = (id: number) => ask<undefined>(`/inbox/${id}`, { method: "DELETE" });

export const changeTakes = (
  ids: number[],
  change: { state?: "new" | "kept" | "rejected"; rating?: number; keywords?: string },
  bin = false,
) => ask<{ changed: number }>("/takes", { method: "PATCH", body: { ids, change, bin } });

export const comparedQuery = (ids: number[]) =>
  queryOptions({
    queryKey: ["takes-compared", ...ids],
    queryFn: () => ask<ComparedTake[]>(`/takes-compared?${ids.map((id) => `ids=${id}`).join("&")}`),
  });
