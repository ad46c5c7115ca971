import type { SheetView } from "../../../api/client";
import { type Incoming, useImport } from "../../outings/useImport";
import type { Editor } from "../useSheetEditor";

export interface PictureImport {
  incoming: Incoming[];
  take: (files: File[]) => void;
  cancel: (id: number) => void;
  dismiss: () => void;
}

/** Takes pictures in for a sheet: the first is the one it meters, more become sheets of their own. */
export function usePicture(editor: Editor, sheet: SheetView): PictureImport {
  const { incoming, take, cancel, dismiss } = useImport((index) =>
    index === 0 ? `/sheets/${sheet.id}/picture` : `/outings/${sheet.outing_id}/pictures`,
  );
  const takeAll = async (files: File[]) => {
    const finished = await take(files);
    const own = finished.find((each) => each.taken?.sheet.id === sheet.id);
    if (own?.taken) editor.accept(own.taken.sheet);
  };
  return { incoming, take: (files) => void takeAll(files), cancel, dismiss };
}
