import { queryOptions, type QueryClient } from "@tanstack/react-query";

import { askForImage, type FrameFigures } from "../../../api/client";

export type Rendition = FrameFigures["rendition"];
export type Quality = "coarse" | "full";

/** Which frame is wanted: whose steps, how it is shown, and the steps where they were dragged. */
export interface FrameWanted {
  chooser: "slip" | "auto";
  rendition: Rendition;
  marks: boolean;
  iso: number | null;
  shutterS: number | null;
}

export interface Frame {
  url: string;
  /** Its own size in pixels, smaller while coarse. */
  width: number;
  height: number;
  figures: FrameFigures;
  quality: Quality;
}

const KEPT_MS = 20_000;
const ROOT = "dry-run";

/** What a frame is called: whose it is and its steps, and its look where that is compared. */
export function nameOf({ figures }: Frame, withLook: boolean): string {
  const look = figures.rendition === "raw" ? "RAW" : "processed";
  const chooser = figures.chooser === "compromise" ? "nearest" : figures.chooser;
  return `${chooser} ${figures.label}${withLook ? `, ${look}` : ""}`;
}

export function framePath(id: number, wanted: FrameWanted, more: Record<string, string>): string {
  const { chooser, rendition, marks, iso, shutterS } = wanted;
  const query = new URLSearchParams({ chooser, rendition, ...more });
  if (marks) query.set("marks", "true");
  if (chooser === "slip" && iso !== null && shutterS !== null) {
    query.set("iso", String(iso));
    query.set("shutter_s", String(shutterS));
  }
  return `/sheets/${id}/dry-run?${query.toString()}`;
}

/** A predicted frame; given up as soon as nobody wants it any more. */
export const frameQuery = (id: number, version: number, wanted: FrameWanted, quality: Quality) =>
  queryOptions({
    queryKey: [ROOT, id, version, framePath(id, wanted, {}), quality],
    queryFn: async ({ signal }): Promise<Frame> => {
      const { image, header } = await askForImage(framePath(id, wanted, { quality }), signal);
      const figures = JSON.parse(header("x-oxlen-figures") ?? "{}") as FrameFigures;
      const { src: url, naturalWidth: width, naturalHeight: height } = image;
      return { url, width, height, figures, quality };
    },
    staleTime: Infinity,
    gcTime: KEPT_MS,
    retry: false,
  });

/** Release a frame's memory when the cache does. */
export function releaseFrames(client: QueryClient): () => void {
  return client.getQueryCache().subscribe(({ type, query }) => {
    const [root] = query.queryKey as unknown[];
    if (type === "removed" && root === ROOT) {
      const frame = query.state.data as Frame | undefined;
      if (frame) URL.revokeObjectURL(frame.url);
    }
  });
}
