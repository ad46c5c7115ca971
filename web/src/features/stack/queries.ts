import { queryOptions } from "@tanstack/react-query";

import { ask, type Stack, type StackAsked } from "../../api/client";

const LOOK_AGAIN_MS = 700;

export const setsQuery = (sheet: number | null) =>
  queryOptions({
    queryKey: ["sets", "of", sheet],
    queryFn: () => ask<Stack[]>(`/stacks${sheet === null ? "" : `?sheet_id=${sheet}`}`),
  });

/** One set, looked at again and again while it is being worked on. */
export const setQuery = (id: number) =>
  queryOptions({
    queryKey: ["sets", id],
    queryFn: () => ask<Stack>(`/stacks/${id}`),
    refetchInterval: (query) => (query.state.data?.state === "working" ? LOOK_AGAIN_MS : false),
  });

export const beginSet = (name: string, sheet: number | null) =>
  ask<Stack>("/stacks", { method: "POST", body: { name, sheet_id: sheet } });

export const changeSet = (id: number, asked: StackAsked) =>
  ask<Stack>(`/stacks/${id}`, { method: "PUT", body: asked });

export const startSet = (id: number) => ask<Stack>(`/stacks/${id}/start`, { method: "POST" });

export const stopSet = (id: number) => ask<Stack>(`/stacks/${id}/stop`, { method: "POST" });

export const addTakes = (id: number, takes: number[], raw: boolean) =>
  ask<Stack>(`/stacks/${id}/takes`, { method: "POST", body: { takes, raw } });

export const benchFrames = (id: number, frames: number) =>
  ask<Stack>(`/stacks/${id}/bench`, { method: "POST", body: { frames, seed: frames } });

export const removeSet = (id: number) => ask<undefined>(`/stacks/${id}`, { method: "DELETE" });

/** What a set is asked, as it is kept. */
export const askedOf = (set: Stack) => ({
  combine: set.combine,
  align: set.align,
  ending: set.ending as NonNullable<StackAsked["ending"]>,
  mixed: set.mixed,
  horizon: set.horizon,
  dark: set.dark,
  close_gaps: set.close_gaps,
  land: set.land,
  land_lift_stops: set.land_lift_stops,
});

/** How takes are named among the frames of a set. */
export const nameOfTake = (take: number) => `take ${String(take).padStart(5, "0")}`;
