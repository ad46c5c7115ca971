import { useEffect, useRef, useState } from "react";

/** What a dry run says of its frame, from the header of the picture. */
export interface DryFigures {
  who: "slip" | "compromise" | "auto";
  look: "processed" | "raw";
  label: string;
  from_scene: boolean;
  clipped_share: number;
  blocked_share: number;
  blur_px: number;
  blur_share: number;
  snr_subject: number;
  source_lost_share: number;
  source_noisy_share: number;
  edges_stops: number[];
  shares: number[];
}

export interface DryFrame {
  url: string;
  /** Its own size in pixels, smaller while coarse. */
  width: number;
  height: number;
  figures: DryFigures;
  quality: "coarse" | "full";
}

export interface DryWanted {
  who: "slip" | "auto";
  look: "processed" | "raw";
  marks: boolean;
  iso: number | null;
  shutterS: number | null;
}

const FULL_AFTER_MS = 220;

/** What a frame is called: whose it is and its steps, and its look where that is compared. */
export function nameOf({ figures }: DryFrame, withLook: boolean): string {
  const look = figures.look === "raw" ? "RAW" : "processed";
  return `${figures.who} ${figures.label}${withLook ? `, ${look}` : ""}`;
}

export function dryRunPath(id: number, wanted: DryWanted, more: Record<string, string>): string {
  const query = new URLSearchParams({ who: wanted.who, look: wanted.look, ...more });
  if (wanted.marks) query.set("marks", "true");
  if (wanted.who === "slip" && wanted.iso !== null && wanted.shutterS !== null) {
    query.set("iso", String(wanted.iso));
    query.set("shutter_s", String(wanted.shutterS));
  }
  return `/api/sheets/${id}/dry-run?${query.toString()}`;
}

/**
 * The predicted frame: coarse at once while things move, the latest wish winning, and full once
 * they rest. The last frame stays until the next is there.
 */
export function useDryRun(id: number, version: number, wanted: DryWanted) {
  const [frame, setFrame] = useState<DryFrame | null>(null);
  const [error, setError] = useState<string | null>(null);
  const key = `${version} ${dryRunPath(id, wanted, {})}`;
  const latest = useRef({ key, path: "" });
  const busy = useRef(false);
  const timer = useRef(0);
  useEffect(() => {
    latest.current = { key, path: dryRunPath(id, wanted, {}) };
    window.clearTimeout(timer.current);
    const show = async (quality: "coarse" | "full"): Promise<void> => {
      busy.current = true;
      const asked = latest.current;
      try {
        const answer = await fetch(`${asked.path}&quality=${quality}`);
        if (!answer.ok) {
          const problem = (await answer.json()) as { detail?: string };
          setError(problem.detail ?? "The dry run failed.");
        } else {
          const figures = JSON.parse(answer.headers.get("x-oxlen-figures") ?? "{}") as DryFigures;
          const image = new Image();
          image.src = URL.createObjectURL(await answer.blob());
          await image.decode();
          setError(null);
          setFrame((old) => {
            if (old) window.setTimeout(() => URL.revokeObjectURL(old.url), 1000);
            const { src: url, naturalWidth: width, naturalHeight: height } = image;
            return { url, width, height, figures, quality };
          });
        }
      } catch {
        setError("Oxlen does not answer.");
      }
      busy.current = false;
      if (latest.current.key !== asked.key) void show("coarse");
      else if (quality === "coarse")
        timer.current = window.setTimeout(() => {
          if (!busy.current) void show("full");
        }, FULL_AFTER_MS);
    };
    if (!busy.current) void show("coarse");
    // The key stands for everything that is wanted.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  useEffect(() => () => window.clearTimeout(timer.current), []);
  return { frame, error };
}
