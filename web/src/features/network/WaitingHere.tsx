import { useQuery, useQueryClient } from "@tanstack/react-query";

import { dropPicture, sendPictures, useWaitingPictures } from "../../api/waitingPictures";
import { sendBegun } from "../../api/waitingSheets";
import { type PictureUse, waitingStore, writeWaiting } from "../../api/waitingStore";
import { Button } from "../../ui/Button";
import { useSay } from "../../ui/Notices";
import { fixed } from "../../ui/numbers";
import { sendLeftEdits } from "../sheet/leftEdits";

const LOOK_EVERY_MS = 2000;
const USES: Record<PictureUse, string> = { take: "take", reading: "reading", sheet: "new sheet" };

/** Edits that wait on this device, by the sheets they are for. */
const waitingEditsQuery = {
  queryKey: ["waiting-edits"],
  queryFn: async () => {
    const edits = await (await waitingStore()).getAll("edits");
    return edits.map((edit) => ({ mark: edit.mark, title: edit.body.title, label: edit.label }));
  },
  refetchInterval: LOOK_EVERY_MS,
  networkMode: "always" as const,
};

/** Sheets begun by questions that wait on this device. */
const waitingSheetsQuery = {
  queryKey: ["waiting-sheets"],
  queryFn: async () => (await waitingStore()).getAll("sheets"),
  refetchInterval: LOOK_EVERY_MS,
  networkMode: "always" as const,
};

/** What waits on this phone until the computer answers: edits and pictures, with their sizes. */
export function WaitingHere() {
  const client = useQueryClient();
  const say = useSay();
  const { data: edits = [] } = useQuery(waitingEditsQuery);
  const pictures = useWaitingPictures();
  const { data: sheets = [] } = useQuery(waitingSheetsQuery);
  const count = edits.length + sheets.length + pictures.length;
  const send = async () => {
    await sendLeftEdits(() => undefined).catch(() => undefined);
    await sendBegun();
    await sendPictures();
    await client.invalidateQueries();
    const store = await waitingStore();
    const counts = await Promise.all(
      (["edits", "sheets", "pictures"] as const).map((name) => store.count(name)),
    );
    say(
      counts.every((left) => left === 0)
        ? "Everything is sent."
        : "The computer does not answer yet.",
    );
  };
  return (
    <section aria-labelledby="waiting-here" className="mt-6">
      <h2 id="waiting-here" className="mb-2 text-lg font-semibold">
        {count === 0 ? "Nothing waits to be sent" : `${count} waiting to be sent`}
      </h2>
      {count > 0 && (
        <>
          <ul className="mb-3 divide-y divide-line border-y border-line">
            {edits.map((edit) => (
              <Waits key={edit.mark} what={edit.title} detail={`edit: ${edit.label}`} />
            ))}
            {sheets.map((sheet) => (
              <Waits
                key={sheet.mark}
                what={sheet.name}
                detail={sheet.refused ?? "new sheet, by questions"}
                onDelete={
                  sheet.refused === null
                    ? undefined
                    : () => void writeWaiting("sheets", null, sheet.place)
                }
              />
            ))}
            {pictures.map((picture) => (
              <Waits
                key={picture.mark}
                what={picture.name}
                detail={
                  picture.refused ?? `${USES[picture.use]}, ${fixed(picture.file.size / 1e6, 1)} MB`
                }
                onDelete={
                  picture.refused === null ? undefined : () => void dropPicture(picture.place)
                }
              />
            ))}
          </ul>
          <Button look="main" className="min-h-12 w-full" onClick={() => void send()}>
            Send now
          </Button>
        </>
      )}
    </section>
  );
}

interface WaitsProps {
  what: string;
  detail: string;
  /** Given where the computer would not take it. */
  onDelete?: (() => void) | undefined;
}

function Waits({ what, detail, onDelete }: WaitsProps) {
  return (
    <li className="flex min-h-11 items-center gap-3 py-1">
      <span className="min-w-0 flex-1 truncate">{what}</span>
      <span className="text-[0.9rem] text-soft">{detail}</span>
      {onDelete && (
        <Button look="quiet" aria-label={`Delete ${what}`} onClick={onDelete}>
          Delete
        </Button>
      )}
    </li>
  );
}
