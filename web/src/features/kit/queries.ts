import { ask, type KitPhone, type PhoneProfile } from "../../api/client";

export const keepPhone = (profile: PhoneProfile) =>
  ask<KitPhone>(`/kit/phones/${profile.id}`, { method: "PUT", body: profile });
export const dropPhone = (id: string) => ask(`/kit/phones/${id}`, { method: "DELETE" });
