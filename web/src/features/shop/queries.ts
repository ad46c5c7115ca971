import { queryOptions } from "@tanstack/react-query";

import { ask, type ImportView } from "../../api/client";
import type { components } from "../../api/schema";

type Schemas = components["schemas"];
export type Shop = Schemas["ShopView"];
export type ShopThing = Schemas["ShopThingView"];
export type ShopPicture = Schemas["ShopPicture"];
export type ShopOptions = Schemas["ShopOptions"];
export type Drift = Schemas["DriftView"];
export type SetUp = Schemas["SetUpView"];
export type NextStep = NonNullable<ShopPicture["next_step"]>;
type PictureOf = Schemas["PictureOf"];

const at = (sheet: number) => `/sheets/${sheet}/shop`;

export const shopQuery = (sheet: number) =>
  queryOptions({
    queryKey: ["shop", sheet],
    queryFn: () => ask<Shop | null>(at(sheet)),
  });

/** Asked again for other options and another list. */
export const setUpQuery = (sheet: number, asked: string) =>
  queryOptions({
    queryKey: ["shop", sheet, "set-up", asked],
    queryFn: () => ask<SetUp>(`${at(sheet)}/set-up`),
  });

export const addThings = (sheet: number, text: string) =>
  ask<Shop>(`${at(sheet)}/things`, { method: "POST", body: { text } });

export const changeOptions = (sheet: number, options: ShopOptions) =>
  ask<Shop>(at(sheet), { method: "PUT", body: options });

export const changeThing = (sheet: number, thing: number, body: Schemas["ThingChange"]) =>
  ask<Shop>(`${at(sheet)}/things/${thing}`, { method: "PATCH", body });

export const deleteThing = (sheet: number, thing: number) =>
  ask<Shop>(`${at(sheet)}/things/${thing}`, { method: "DELETE" });

export const sortTakes = (sheet: number) => ask<Shop>(`${at(sheet)}/sort`, { method: "POST" });

export const aimAt = (sheet: number, picture: PictureOf | null) =>
  ask<Shop>(`${at(sheet)}/aim`, { method: "POST", body: { picture } });

export const placeTake = (sheet: number, take: number, picture: PictureOf | null) =>
  ask<Shop>(`${at(sheet)}/takes/${take}`, { method: "PUT", body: { picture } });

export const chooseReference = (sheet: number, take: number) =>
  ask<Shop>(`${at(sheet)}/reference`, { method: "PUT", body: { take_id: take } });

export const rejectTake = (take: number) =>
  ask<unknown>(`/takes/${take}`, { method: "PATCH", body: { state: "rejected" } });

export const beginCheck = (sheet: number) =>
  ask<ImportView>(`${at(sheet)}/check`, { method: "POST" });

export const beginZip = (sheet: number) => ask<ImportView>(`${at(sheet)}/zip`, { method: "POST" });

export const zipAddress = (sheet: number) => `/api${at(sheet)}/zip`;
export const labelsAddress = (sheet: number) => `/api${at(sheet)}/labels`;

/** As it will be handed over; `version` changes with all that it depends on. */
export const matchedAddress = (sheet: number, take: number, version: string) =>
  `/api${at(sheet)}/takes/${take}/matched?side_px=900&v=${encodeURIComponent(version)}`;

/** Everything shot of a series with the thing it is of, in the order of the list. */
export interface Shot {
  thing: ShopThing;
  picture: ShopPicture & { take_id: number; picture: string };
}

export const shotsOf = (shop: Shop): Shot[] =>
  shop.things
    .filter((thing) => !thing.skipped)
    .flatMap((thing) => thing.pictures.map((picture) => ({ thing, picture })))
    .filter((shot): shot is Shot => shot.picture.take_id !== null);

export const nameOf = ({ thing, picture }: Shot, shop: Shop) =>
  [thing.number, thing.name, shop.options.views.length > 1 && picture.view]
    .filter(Boolean)
    .join(" ");
