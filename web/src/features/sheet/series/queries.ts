import { type QueryClient, queryOptions } from "@tanstack/react-query";

import { ask, type Members, type SeriesStart, type SeriesView } from "../../../api/client";

export const seriesQuery = (id: number) =>
  queryOptions({
    queryKey: ["series", id],
    queryFn: ({ signal }) => ask<SeriesView>(`/series/${id}`, { signal }),
  });

const post = (path: string, body?: object) => ask<SeriesView>(path, { method: "POST", body });

export const startSeries = (sheetId: number, start: SeriesStart) =>
  post(`/sheets/${sheetId}/series`, start);
export const addMembers = (id: number, members: Members) => post(`/series/${id}/sheets`, members);
export const updateSeries = (id: number) => post(`/series/${id}/slip`);
export const followAgain = (sheetId: number) => post(`/sheets/${sheetId}/series/again`);
export const leaveSeries = (sheetId: number) =>
  ask<SeriesView>(`/sheets/${sheetId}/series`, { method: "DELETE" });
export const renameSeries = (id: number, title: string) =>
  ask<SeriesView>(`/series/${id}`, { method: "PATCH", body: { title } });
export const endSeries = (id: number) => ask<null>(`/series/${id}`, { method: "DELETE" });

/** Have everything that shows a series shown anew. */
export const refreshSeries = (client: QueryClient) =>
  Promise.all(
    ["sheet", "series", "outings"].map((key) => client.invalidateQueries({ queryKey: [key] })),
  );
