import { queryOptions } from "@tanstack/react-query";

import {
  ask,
  type DarkSkyClass,
  type PlaceBody,
  type PlacePosition,
  type PlaceView,
} from "../../api/client";

export const placesQuery = queryOptions({
  queryKey: ["places"],
  queryFn: () => ask<PlaceView[]>("/places"),
});

export const placeQuery = (id: number) =>
  queryOptions({
    queryKey: ["places", id],
    queryFn: () => ask<PlaceView>(`/places/${id}`),
  });

export const classesQuery = queryOptions({
  queryKey: ["dark-sky-classes"],
  queryFn: () => ask<DarkSkyClass[]>("/dark-sky-classes"),
  staleTime: Infinity,
});

export const addPlace = (body: PlaceBody) => ask<PlaceView>("/places", { method: "POST", body });

export const keepPlace = (id: number, body: PlaceBody) =>
  ask<PlaceView>(`/places/${id}`, { method: "PUT", body });

export const removePlace = (id: number) => ask(`/places/${id}`, { method: "DELETE" });

export const readPosition = (text: string) =>
  ask<PlacePosition>("/places/pasted", { method: "POST", body: { text } });

export const positionOfPicture = (sha256: string) =>
  ask<PlacePosition>(`/pictures/${sha256}/position`);
