import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { Refusal, sendFile, type SheetView, type Take } from "../../../api/client";
import { newMark } from "../../../api/marks";
import { useSay } from "../../../ui/Notices";
import { takesQuery } from "../queries";
import { keepPictures } from "./waitingPictures";

/** Takes in what was shot for a sheet, one file after another; a bad one is named. */
export function useAddTakes(sheet: SheetView): {
  add: (files: File[]) => void;
  /** How far it is; null while nothing comes in. */
  coming: string | null;
} {
  const client = useQueryClient();
  const say = useSay();
  const [coming, setComing] = useState<string | null>(null);
  const takeOne = async (file: File) => {
    const asked = new URLSearchParams({
      name: file.name || "picture",
      mark: newMark(),
      uid: sheet.uid,
    });
    try {
      const { signal } = new AbortController();
      await sendFile<Take[]>(`/sheets/${sheet.id}/takes?${asked}`, file, () => undefined, signal);
    } catch (error) {
      if (!(error instanceof Refusal)) return;
      const isAway = error.problem.code === "unreachable";
      const trouble = isAway ? await keepPictures(sheet, [file]) : error.message;
      if (trouble) say(trouble);
    }
  };
  const add = async (files: File[]) => {
    for (const [place, file] of files.entries()) {
      setComing(files.length === 1 ? "Taking it in…" : `${place + 1} of ${files.length}…`);
      await takeOne(file);
      await client.invalidateQueries({ queryKey: takesQuery(sheet.id).queryKey });
    }
    setComing(null);
    await client.invalidateQueries({ queryKey: ["sheet", sheet.id] });
  };
  return { add: (files) => void add(files), coming };
}
