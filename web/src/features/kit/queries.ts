import { queryOptions } from "@tanstack/react-query";

import {
  ask,
  type Glass,
  type KitClipOn,
  type KitLamp,
  type KitPhone,
  type PhoneProfile,
  type UnreadablePhone,
} from "../../api/client";

export const unreadableQuery = queryOptions({
  queryKey: ["phones", "unreadable"],
  queryFn: ({ signal }) => ask<UnreadablePhone[]>("/kit/unreadable", { signal }),
});

export const keepPhone = (profile: PhoneProfile, agreed = false) =>
  ask<KitPhone>(`/kit/phones/${profile.id}${agreed ? "?agreed=true" : ""}`, {
    method: "PUT",
    body: profile,
  });
export const dropPhone = (id: string) => ask(`/kit/phones/${id}`, { method: "DELETE" });
export const keepGlass = ({ id, name, factor, note }: Omit<Glass, "stops">) =>
  ask<Glass>(`/kit/glass/${id}`, { method: "PUT", body: { name, factor, note } });
export const dropGlass = (id: string) => ask(`/kit/glass/${id}`, { method: "DELETE" });

export const keepLamp = (id: string, lamp: KitLamp["lamp"]) =>
  ask<KitLamp>(`/kit/lamps/${id}`, { method: "PUT", body: lamp });
export const keepClipOn = (id: string, clipOn: KitClipOn["clip_on"]) =>
  ask<KitClipOn>(`/kit/clip-ons/${id}`, { method: "PUT", body: clipOn });
export const dropItem = (kind: "lamps" | "clip-ons", id: string) =>
  ask(`/kit/${kind}/${id}`, { method: "DELETE" });
