import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { LightReading, SheetView } from "../../../api/client";
import { keepPictures } from "../../../api/waitingPictures";
import { useKeptSince } from "../../../offline/offline";
import { useSay } from "../../../ui/Notices";
import { meQuery } from "../../network/queries";
import { type Incoming, useImport } from "../../outings/useImport";
import { whatChanged } from "../slip/slipText";
import type { Editor } from "../useSheetEditor";

const KEPT =
  "No connection. The reading waits on this phone. The slip still uses the earlier light.";

export interface PictureImport {
  incoming: Incoming[];
  take: (files: File[]) => void;
  /** Send a picture whole of which a small copy went in. */
  sendWhole: (file: File) => void;
  cancel: (id: number) => void;
  dismiss: () => void;
  /** Guesses of the light that a picture at hand would replace; empty where nothing is asked. */
  guesses: LightReading[];
  /** Take the picture that waits, with the guesses or without them; null leaves it. */
  decide: (guesses: "replace" | "keep" | null) => void;
}

/**
 * Takes pictures in for a sheet: the first is the one it meters, more become sheets of their own.
 * Where the sheet uses a guess, it is asked first whether the picture replaces it.
 */
export function usePicture(
  editor: Editor,
  sheet: SheetView,
  onUnreachable: () => void,
): PictureImport {
  const say = useSay();
  const isAway = useKeptSince() !== null;
  const pathFor = (index: number) =>
    index === 0 ? `/sheets/${sheet.id}/picture` : `/outings/${sheet.outing_id}/pictures`;
  // Over the air the light is wanted soon; the pixels can follow.
  const isPhone = useQuery(meQuery).data?.is_phone ?? false;
  const { incoming, take, cancel, dismiss } = useImport(pathFor, { smallFirst: isPhone });
  const whole = useImport(pathFor);
  const [waiting, setWaiting] = useState<File[] | null>(null);
  const guesses = sheet.answer.readings.filter(
    (reading) => reading.kind === "level" && !reading.superseded,
  );
  const keepHere = async (files: File[]) => {
    const trouble =
      (await keepPictures(
        { use: "reading", owner: sheet.id, uid: sheet.uid },
        files.slice(0, 1),
      )) ??
      (await keepPictures({ use: "sheet", owner: sheet.outing_id, uid: null }, files.slice(1)));
    dismiss();
    say(trouble ?? KEPT, {
      text: "If light changed",
      run: onUnreachable,
    });
  };
  const takeAll = async (files: File[], replaced: LightReading[], send = take) => {
    if (isAway) return keepHere(files);
    const before = sheet.answer;
    const finished = await send(files);
    const unsent = finished.flatMap((each) => each.unsent ?? []);
    if (isPhone && unsent.length > 0) await keepHere(unsent);
    const own = finished.find((each) => each.taken?.sheet.id === sheet.id);
    if (!own?.taken) return;
    editor.accept(own.taken.sheet);
    if (isPhone) say(whatChanged(before, own.taken.sheet.answer));
    const gone = new Set(replaced.map((guess) => guess.id));
    if (gone.size > 0)
      editor.edit("replace guess", (body) => ({
        ...body,
        readings: body.readings.filter((reading) => !gone.has(reading.id)),
      }));
  };
  const decide: PictureImport["decide"] = (answer) => {
    if (waiting && answer) void takeAll(waiting, answer === "replace" ? guesses : []);
    setWaiting(null);
  };
  return {
    incoming: [...incoming, ...whole.incoming],
    sendWhole: (file) => {
      dismiss();
      void takeAll([file], [], whole.take);
    },
    take: (files) => {
      if (guesses.length > 0) setWaiting(files);
      else void takeAll(files, []);
    },
    cancel: (id) => {
      cancel(id);
      whole.cancel(id);
    },
    dismiss: () => {
      dismiss();
      whole.dismiss();
    },
    guesses: waiting ? guesses : [],
    decide,
  };
}
