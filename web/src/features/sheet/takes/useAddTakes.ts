import { useQueryClient } from "@tanstack/react-query";

import type { SheetView, Take } from "../../../api/client";
import { keepPictures } from "../../../api/waitingPictures";
import { useTakingIn } from "../../takes/useTakingIn";
import { takesQuery } from "../queries";

/** Imports what was shot for a sheet; what finds no answer waits on this device. */
export function useAddTakes(sheet: SheetView) {
  const client = useQueryClient();
  const refresh = () => client.invalidateQueries({ queryKey: takesQuery(sheet.id).queryKey });
  const taking = useTakingIn<Take[]>({
    path: `/sheets/${sheet.id}/takes`,
    asked: { uid: sheet.uid },
    onOne: () => void refresh(),
    onAway: (file) => keepPictures({ use: "take", owner: sheet.id, uid: sheet.uid }, [file]),
  });
  const add = (files: File[]) =>
    void taking
      .take(files)
      .then(refresh)
      .then(() => client.invalidateQueries({ queryKey: ["sheet", sheet.id] }));
  return { ...taking, add };
}
