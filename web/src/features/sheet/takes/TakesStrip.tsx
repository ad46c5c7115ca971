import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "wouter";

import type { SheetView, Take } from "../../../api/client";
import { later } from "../../../ui/later";
import { Preview } from "../../../ui/Preview";
import { PickButton } from "../../outings/DropZone";
import { TakingInBar } from "../../takes/TakingInBar";
import { takesQuery } from "../queries";
import { useAddTakes } from "./useAddTakes";
import { Button } from "../../../ui/Button";
import { dropPicture, useWaitingPictures } from "../../../api/waitingPictures";
import type { WaitingPicture } from "../../../api/waitingStore";
import type { Editor } from "../useSheetEditor";

const TakeDialog = later(() => import("./TakeDialog").then((all) => all.TakeDialog));

const MOST_COMPARED = 4;
const SHOT_ON: Record<Take["shot_on"], string> = {
  slip: "with the slip",
  auto: "on auto",
  unknown: "",
};
const STATE_MARK: Record<Take["state"], string> = { new: "", kept: "kept", rejected: "rejected" };

/** Its place in a bracket; null for a single picture. */
function frameOf(take: Take): string | null {
  return take.frame === null ? null : `frame ${take.frame} of ${take.frames}`;
}

/** What was shot for the sheet, in the order it came; none, no strip. */
export function TakesStrip({ editor, sheet }: { editor: Editor; sheet: SheetView }) {
  const { data: takes = [] } = useQuery(takesQuery(sheet.id));
  const [openId, setOpenId] = useState<number | null>(null);
  const open = takes.find((take) => take.id === openId) ?? null;
  const waiting = useWaitingPictures().filter(
    (picture) => picture.use === "take" && picture.owner === sheet.id,
  );
  const { add, state, cancel, dismiss } = useAddTakes(sheet);
  if (takes.length === 0 && waiting.length === 0) return null;
  const kept = takes.slice(-MOST_COMPARED).map((take) => take.id);
  return (
    <section aria-label="Takes" className="rounded border border-line bg-panel p-1">
      <TakingInBar state={state} onCancel={cancel} onDismiss={dismiss} />
      <div className="flex min-h-11 flex-wrap items-center gap-1">
        <PickButton look="quiet" text="Add takes" onFiles={add} />
        <ul className="flex min-w-[min(5rem,100%)] flex-1 gap-1 overflow-x-auto">
          {takes.map((take) => (
            <li key={take.id} className="shrink-0">
              <button
                type="button"
                className="flex min-h-11 items-center gap-2 rounded pr-2 text-left text-[0.8rem] leading-tight hover:bg-sunk"
                aria-label={`Take ${SHOT_ON[take.shot_on]}, ${take.label}`}
                onClick={() => setOpenId(take.id)}
              >
                <span className="surround block h-10 w-14 overflow-hidden rounded-xs">
                  <Preview
                    picture={take.picture}
                    alt=""
                    className={`h-full w-full object-cover ${take.state === "rejected" ? "opacity-40" : ""}`}
                  />
                </span>
                <span className="grid">
                  <b>{take.label.split(", ")[0]}</b>
                  <span className="text-soft">
                    {[
                      ...take.label.split(", ").slice(1),
                      frameOf(take) ?? (take.shot_on === "auto" ? "auto" : ""),
                      take.raw_picture && "RAW too",
                      STATE_MARK[take.state],
                    ]
                      .filter(Boolean)
                      .join(", ")}
                  </span>
                </span>
              </button>
            </li>
          ))}
          {waiting.map((picture) => (
            <WaitingTake key={picture.place} picture={picture} />
          ))}
        </ul>
        {kept.length > 1 && (
          <Link
            href={`/takes/compare?ids=${kept.join(",")}`}
            className="flex min-h-11 items-center px-2 text-[0.92rem] underline"
          >
            Side by side
          </Link>
        )}
        <Link
          href={`/takes/stacks?sheet=${sheet.id}`}
          className="flex min-h-11 items-center px-2 text-[0.92rem] underline"
        >
          Stack
        </Link>
      </div>
      <TakeDialog take={open} editor={editor} sheet={sheet} onClose={() => setOpenId(null)} />
    </section>
  );
}

/** One that waits on this phone for the computer to answer. */
function WaitingTake({ picture }: { picture: WaitingPicture }) {
  const { name, refused, place } = picture;
  return (
    <li className="flex min-h-11 shrink-0 items-center gap-2 rounded border border-dashed border-strong px-2 text-[0.8rem] leading-tight">
      <span className="grid max-w-56">
        <b className="truncate">{name}</b>
        <span className="text-soft">{refused ?? "waiting on this phone"}</span>
      </span>
      {refused && (
        <Button look="quiet" onClick={() => void dropPicture(place)}>
          Delete
        </Button>
      )}
    </li>
  );
}
