import { queryOptions } from "@tanstack/react-query";

import {
  ask,
  type ComparedLine,
  type KitPhone,
  type Measurement,
  type MeasurementKind,
  type OwnMode,
  type PhoneAnswers,
  type PhoneMade,
  type PhonePortrait,
  type ReportedFacts,
} from "../../api/client";

export const portraitQuery = (id: string) =>
  queryOptions({
    queryKey: ["phones", id, "portrait"],
    queryFn: ({ signal }) => ask<PhonePortrait>(`/kit/phones/${id}/portrait`, { signal }),
  });
export const measurementsQuery = (id: string) =>
  queryOptions({
    queryKey: ["phones", id, "measurements"],
    queryFn: ({ signal }) => ask<Measurement[]>(`/kit/phones/${id}/measurements`, { signal }),
  });
export const kindsQuery = queryOptions({
  queryKey: ["measurement-kinds"],
  queryFn: ({ signal }) => ask<MeasurementKind[]>("/measurement-kinds", { signal }),
  staleTime: Infinity,
});
export const compareQuery = (first: string, second: string, ev100: number, distance: number) =>
  queryOptions({
    queryKey: ["phones", "compare", first, second, ev100, distance],
    queryFn: ({ signal }) => {
      const asked = { first, second, ev100: String(ev100), distance_m: String(distance) };
      return ask<ComparedLine[]>(`/kit/compare?${new URLSearchParams(asked).toString()}`, {
        signal,
      });
    },
    placeholderData: (before) => before,
  });

export const mysteryKindsQuery = queryOptions({
  queryKey: ["mystery-kinds"],
  queryFn: ({ signal }) => ask<string[]>("/mystery-kinds", { signal }),
  staleTime: Infinity,
});
export const truthQuery = (id: number) =>
  queryOptions({
    queryKey: ["measurements", id, "truth"],
    queryFn: ({ signal }) => ask<{ words: string[] }>(`/measurements/${id}/truth`, { signal }),
    staleTime: Infinity,
  });
export const keepMysteryPhone = (seed: number) =>
  ask<KitPhone>("/kit/mystery-phones", { method: "POST", body: { seed } });
export const takeOnBench = (id: number) =>
  ask<Measurement>(`/measurements/${id}/bench`, { method: "POST" });

export const nameOwnMode = (phone: string, mode: OwnMode) =>
  ask<KitPhone>(`/kit/phones/${phone}/computed-modes`, { method: "POST", body: mode });

export const makePhone = (files: ReportedFacts[], answers: PhoneAnswers) =>
  ask<PhoneMade>("/kit/phone-from", { method: "POST", body: { files, answers } });
export const keepMadePhone = (files: ReportedFacts[], answers: PhoneAnswers) =>
  ask<PhoneMade>("/kit/phones", { method: "POST", body: { files, answers } });

export const beginMeasurement = (phone: string, kind: string, lens: string, mode: string) =>
  ask<Measurement>(`/kit/phones/${phone}/measurements`, {
    method: "POST",
    body: { kind, lens, mode },
  });
export const sayGiven = (id: number, given: Record<string, number>) =>
  ask<Measurement>(`/measurements/${id}/given`, { method: "PUT", body: { given } });
export const leaveOut = (id: number, picture: number) =>
  ask<Measurement>(`/measurements/${id}/pictures/${picture}`, { method: "DELETE" });
export const endMeasurement = (id: number, how: "use" | "leave") =>
  ask<Measurement>(`/measurements/${id}/${how}`, { method: "POST" });
