import type { Answer } from "../../api/client";

/** A picture's reading as `oxlen meter` gives it. */
export interface PictureReport {
  file: {
    name: string;
    format: string;
    width: number | null;
    height: number | null;
    orientation: number;
    kind: "raw" | "processed";
  };
  camera: { make: string | null; model: string | null; lens: string | null };
  settings: {
    iso: number | null;
    shutter_s: number | null;
    f_number: number | null;
    focal_mm: number | null;
    focal35_mm: number | null;
    ev100: number | null;
  };
  taken_at: string | null;
  white_balance: string | null;
  brightness_ev100: number | null;
  frame: { mean_stops: number; clipped_share: number; blocked_share: number } | null;
  notes: string[];
}

export type PictureLight = Omit<NonNullable<Answer["picture"]>, "report"> & {
  report: PictureReport;
};

/** The picture of an answer with its report's shape named. */
export function pictureOf(answer: Answer): PictureLight | null {
  return answer.picture as PictureLight | null;
}
