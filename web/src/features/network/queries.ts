import { queryOptions } from "@tanstack/react-query";

import { ask, type Me, type Network, type PairingCode } from "../../api/client";

const LOOK_EVERY_MS = 2000;

export const networkQuery = queryOptions({
  queryKey: ["network"],
  queryFn: ({ signal }) => ask<Network>("/network", { signal }),
  // A phone that has just paired, or the end of the time, shows by itself.
  refetchInterval: LOOK_EVERY_MS,
  staleTime: 0,
});

/** Who asks: the computer itself, or a phone and what it may do. */
export const meQuery = queryOptions({
  queryKey: ["me"],
  queryFn: ({ signal }) => ask<Me>("/me", { signal }),
  staleTime: 300_000,
});

export const beginServing = (minutes: number, secure: boolean, names: string[]) =>
  ask<Network>("/network/serving", { method: "POST", body: { minutes, secure, names } });
export const endServing = () => ask<Network>("/network/serving", { method: "DELETE" });
export const newCode = () => ask<PairingCode>("/network/code", { method: "POST" });
export const changeDevice = (id: number, name: string, mayChangeKit: boolean) =>
  ask<Network>(`/network/devices/${id}`, {
    method: "PATCH",
    body: { name, may_change_kit: mayChangeKit },
  });
export const confirmDevice = (id: number) =>
  ask<Network>(`/network/devices/${id}/confirm`, { method: "POST" });
export const revokeDevice = (id: number) =>
  ask<Network>(`/network/devices/${id}`, { method: "DELETE" });
export const revokeAll = () => ask<Network>("/network/devices", { method: "DELETE" });
export const pair = (words: string, name: string) =>
  ask<Me>("/pair", { method: "POST", body: { words, name } });
