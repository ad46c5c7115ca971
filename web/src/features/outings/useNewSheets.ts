import { useQuery } from "@tanstack/react-query";

import { keepPictures, type WaitsFor } from "../../api/waitingPictures";
import { useSay } from "../../ui/Notices";
import { meQuery } from "../network/queries";
import { useImport } from "./useImport";

interface Outing {
  id: number;
  uid: string | null;
}

/**
 * Takes pictures in as new sheets; on a phone without a connection they wait until the computer
 * answers. `outing` is null where the newest is meant, whose number `pathFor` then finds.
 */
export function useNewSheets(
  pathFor: () => string | Promise<string>,
  outing: Outing | null,
  onSheet: (id: number, count: number) => void,
) {
  const say = useSay();
  const isPhone = useQuery(meQuery).data?.is_phone ?? false;
  const { incoming, take, cancel, dismiss } = useImport(pathFor);
  const waitsFor: WaitsFor = { use: "sheet", owner: outing?.id ?? null, uid: outing?.uid ?? null };
  const takeAll = async (files: File[]) => {
    const finished = await take(files);
    const unsent = finished.flatMap((each) => each.unsent ?? []);
    if (isPhone && unsent.length > 0) {
      const trouble = await keepPictures(waitsFor, unsent);
      dismiss();
      say(trouble ?? keptWords(unsent.length));
    }
    const first = finished.find((each) => each.taken)?.taken;
    if (first) onSheet(first.sheet.id, finished.length);
  };
  return { incoming, cancel, dismiss, take: (files: File[]) => void takeAll(files) };
}

const keptWords = (count: number) =>
  count === 1
    ? "No connection. The new sheet waits on this phone."
    : `No connection. ${count} new sheets wait on this phone.`;
