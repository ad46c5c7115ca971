import { queryOptions } from "@tanstack/react-query";

import {
  ask,
  type Asks,
  type ChangedLight,
  type FilesCompared,
  type Formula,
  type LensFilter,
  type KitClipOn,
  type KitLamp,
  type KitPhone,
  type LightLevel,
  type MergedEdits,
  type Preset,
  type PresetView,
  type SharpnessMeasured,
  type SheetBody,
  type SheetView,
  type Take,
  type TonePlace,
  type Usual,
  type WhiteMeasured,
} from "../../api/client";
import type { WaitingEdit } from "../../api/waitingStore";

export const sheetQuery = (id: number) =>
  queryOptions({
    queryKey: ["sheet", id],
    queryFn: ({ signal }) => ask<SheetView>(`/sheets/${id}`, { signal }),
    staleTime: Infinity,
    refetchOnMount: "always",
  });

/** The slips for weaker and stronger light; of a version, as each edit changes them. */
export const lightTableQuery = (id: number, version: number) =>
  queryOptions({
    queryKey: ["light-table", id, version],
    queryFn: ({ signal }) => ask<ChangedLight[]>(`/sheets/${id}/light-table`, { signal }),
    staleTime: Infinity,
  });

export const phonesQuery = queryOptions({
  queryKey: ["phones"],
  queryFn: ({ signal }) => ask<KitPhone[]>("/kit/phones", { signal }),
});

export const tonesQuery = queryOptions({
  queryKey: ["tones"],
  queryFn: ({ signal }) => ask<TonePlace[]>("/tones", { signal }),
  staleTime: Infinity,
});

export const levelsQuery = queryOptions({
  queryKey: ["light-levels"],
  queryFn: ({ signal }) => ask<LightLevel[]>("/light-levels", { signal }),
  staleTime: Infinity,
});

export const formulaQuery = (id: string) =>
  queryOptions({
    queryKey: ["formula", id],
    queryFn: ({ signal }) => ask<Formula>(`/compute/${id}`, { signal }),
    staleTime: Infinity,
  });

export const workedQuery = (id: string, inputs: Record<string, unknown>) =>
  queryOptions({
    queryKey: ["worked", id, inputs],
    queryFn: ({ signal }) =>
      ask<Record<string, unknown>>(`/compute/${id}`, { method: "POST", body: inputs, signal }),
  });

export const putSheet = (
  id: number,
  { version, label, body, mark }: WaitingEdit,
  keepalive = false,
) =>
  ask<SheetView>(`/sheets/${id}`, {
    method: "PUT",
    body: { version, label, body, mark },
    keepalive,
  });

export const mergeEdits = (
  id: number,
  edits: { before: SheetBody; mine: SheetBody; keep_mine?: string[][] },
) => ask<MergedEdits>(`/sheets/${id}/merge`, { method: "POST", body: edits });

export const asksQuery = queryOptions({
  queryKey: ["asks"],
  queryFn: ({ signal }) => ask<Asks>("/asks", { signal }),
  staleTime: Infinity,
});

export const takesQuery = (sheetId: number) =>
  queryOptions({
    queryKey: ["takes", sheetId],
    queryFn: ({ signal }) => ask<Take[]>(`/sheets/${sheetId}/takes`, { signal }),
  });

export const usualQuery = queryOptions({
  queryKey: ["usual"],
  queryFn: ({ signal }) => ask<Usual>("/usual", { signal }),
  staleTime: Infinity,
});

export const filtersQuery = queryOptions({
  queryKey: ["glass"],
  queryFn: ({ signal }) => ask<LensFilter[]>("/kit/glass", { signal }),
});

export const lampsQuery = queryOptions({
  queryKey: ["lamps"],
  queryFn: ({ signal }) => ask<KitLamp[]>("/kit/lamps", { signal }),
});

export const clipOnsQuery = queryOptions({
  queryKey: ["clip-ons"],
  queryFn: ({ signal }) => ask<KitClipOn[]>("/kit/clip-ons", { signal }),
});

export const measureWhite = (sheetId: number, place: string) =>
  ask<WhiteMeasured>(`/sheets/${sheetId}/white?${place}`);

export const sharpnessQuery = (sheetId: number, picture: string, place: string) =>
  queryOptions({
    queryKey: ["sharpness", picture, place],
    queryFn: ({ signal }) =>
      ask<SharpnessMeasured>(`/sheets/${sheetId}/sharpness?${place}`, { signal }),
    staleTime: Infinity,
  });

/** `body` is the sheet as it is, so that the files follow it. */
export const comparedQuery = (sheetId: number, body: string, place: string) =>
  queryOptions({
    queryKey: ["files-compared", sheetId, body, place],
    queryFn: ({ signal }) =>
      ask<FilesCompared>(`/sheets/${sheetId}/files-compared?${place}`, { signal }),
    staleTime: 60_000,
  });

export const presetsQuery = queryOptions({
  queryKey: ["presets"],
  queryFn: ({ signal }) => ask<PresetView[]>("/presets", { signal }),
});

export const putPreset = (preset: Preset) =>
  ask<PresetView>(`/presets/${preset.id}`, { method: "PUT", body: preset });

export const dropPreset = (id: string) => ask(`/presets/${id}`, { method: "DELETE" });
