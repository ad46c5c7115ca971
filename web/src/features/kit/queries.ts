import { queryOptions } from "@tanstack/react-query";

import {
  ask,
  type LensFilter,
  type KitClipOn,
  type KitLamp,
  type KitPhone,
  type LadderFound,
  type PatchDetail,
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
export const keepFilter = ({ id, name, factor, note }: Omit<LensFilter, "stops">) =>
  ask<LensFilter>(`/kit/glass/${id}`, { method: "PUT", body: { name, factor, note } });
export const deleteFilter = (id: string) => ask(`/kit/glass/${id}`, { method: "DELETE" });

/** A slider value found for a distance, null for infinity. */
export interface SliderPoint {
  lens: string;
  clip_on: string;
  software: string;
  value: number;
  distance_m: number | null;
  plus_minus: number | null;
  found: string;
}
export const keepSliderPoint = (phone: string, point: SliderPoint) =>
  ask<KitPhone>(`/kit/phones/${phone}/slider-points`, { method: "POST", body: point });
export const dropSliderPoint = (phone: string, lens: string, clipOn: string, value: number) =>
  ask<KitPhone>(
    `/kit/phones/${phone}/slider-points?${new URLSearchParams({
      lens,
      clip_on: clipOn,
      value: String(value),
    }).toString()}`,
    { method: "DELETE" },
  );
export const ladderPeak = (
  rungs: { value: number; scales: PatchDetail["scales"] }[],
  reach: [number, number] | null = null,
) => ask<LadderFound>("/ladder/peak", { method: "POST", body: { rungs, reach } });

export const keepLamp = (id: string, lamp: KitLamp["lamp"]) =>
  ask<KitLamp>(`/kit/lamps/${id}`, { method: "PUT", body: lamp });
export const keepClipOn = (id: string, clipOn: KitClipOn["clip_on"]) =>
  ask<KitClipOn>(`/kit/clip-ons/${id}`, { method: "PUT", body: clipOn });
export const dropItem = (kind: "lamps" | "clip-ons", id: string) =>
  ask(`/kit/${kind}/${id}`, { method: "DELETE" });
